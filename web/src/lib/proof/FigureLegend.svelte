<script lang="ts">
  import { useStudio } from '../studio/studio.svelte';
  import type { Shown } from './proving.svelte';

  /** Which figure's pixels the photo shows, and how they are drawn. */
  let { shown }: { shown: Shown } = $props();
  const { proving } = useStudio();
  const times = ['before', 'now'] as const;
  const figure = $derived(shown.figure);
  const scale = $derived.by(() => {
    if (figure.key === 'field') return 'In the colour that the light adds';
    return figure.full ? `Full ink: ${figure.full} ${figure.unit}` : 'In ink';
  });
</script>

<div
  class="absolute bottom-3 left-3 flex min-h-[24px] items-center gap-2 bg-ink pr-1 pl-2 text-inverse"
  role="status"
  data-testid="figure-legend"
>
  <span class="font-semibold">{figure.name}</span>
  <span>{scale}</span>
  {#if figure.before != null}
    <span role="radiogroup" aria-label="When" class="flex">
      {#each times as when (when)}
        <button
          class="quiet aria-checked:bg-inverse aria-checked:text-ink"
          role="radio"
          aria-checked={shown.when === when}
          onclick={() => (proving.shown = { ...shown, when })}>{when}</button
        >
      {/each}
    </span>
  {/if}
  <button
    class="quiet"
    aria-label="Put the figure's pixels away"
    onclick={() => (proving.shown = null)}>×</button
  >
</div>
