<script lang="ts">
  import { useStudio } from '../studio/studio.svelte';

  const studio = useStudio();
  const finder = studio.finder;
</script>

{#if finder.done !== null}
  <div class="flex items-center gap-2" role="status">
    <span class="relative h-[28px] flex-1 border border-ink">
      <span
        class="absolute inset-y-0 left-0 bg-ink/25"
        style:width="{finder.done * 100}%"
        role="progressbar"
        aria-label="Looking for casts"
        aria-valuenow={Math.round(finder.done * 100)}
      ></span>
      <span class="absolute inset-0 flex items-center justify-center">Looking</span>
    </span>
    <button class="button tall" onclick={() => finder.cancel()}>Cancel</button>
  </div>
{:else}
  {#if finder.trouble}
    <p role="alert" class="notched mb-2 bg-attention py-1 pr-2 text-small text-inverse">
      {finder.trouble}
    </p>
  {/if}
  <div class="flex gap-2">
    <button
      class="button tall flex-1 px-2"
      class:strong={!finder.look}
      onclick={() => studio.tell({})}>{finder.look ? 'Look again' : 'Look for casts'}</button
    >
    <button class="button tall px-2" onclick={() => studio.addCast()}>New cast</button>
  </div>
{/if}
