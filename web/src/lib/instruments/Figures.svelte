<script lang="ts">
  /** CIELAB figures in aligned columns. */
  let { lab }: { lab: [number, number, number] } = $props();
</script>

<span class="grid grid-cols-[auto_auto] gap-x-2 text-small leading-tight">
  {#each ['L', 'a', 'b'] as name, i (name)}
    <span class="text-ink2">{name}</span><span class="text-right">{lab[i]?.toFixed(1)}</span>
  {/each}
</span>
