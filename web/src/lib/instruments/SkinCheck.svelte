<script lang="ts">
  import type { Scopes } from '../api/types';
  import { useStudio } from '../studio/studio.svelte';

  let { read }: { read: Scopes } = $props();
  const studio = useStudio();
  const within = $derived(
    (off: number): boolean =>
      off >= read.skin_range[0] - read.skin_line && off <= read.skin_range[1] - read.skin_line,
  );

  function words(off: number): string {
    const size = Math.abs(off).toFixed(0);
    if (size === '0') return 'on the line';
    return `${size}° to ${off > 0 ? 'yellow' : 'red'}`;
  }
</script>

<div class="flex items-start gap-2 text-small" data-testid="skin">
  <div class="min-w-0 flex-1">
    {#if read.skin}
      {@const { before, now } = read.skin}
      <span class="block">
        Skin {words(before)}{#if Math.abs(now - before) >= 0.5}, now {words(now)}{/if}
      </span>
      <span class="block text-ink2">
        {within(now) ? 'within natural skins' : 'outside natural skins'}{studio.scopes.skinAt
          ? ', as picked'
          : ''}
      </span>
    {:else}
      <span class="text-ink2">No skin seen here.</span>
    {/if}
  </div>
  {#if studio.scopes.skinAt}
    <button class="quiet underline" onclick={() => (studio.scopes.skinAt = null)}>Forget</button>
  {:else}
    <button
      class="button px-2"
      aria-pressed={studio.tool === 'skin'}
      title="Click a place on the photo that is skin"
      onclick={() => studio.toggleTool('skin')}>Pick</button
    >
  {/if}
</div>
