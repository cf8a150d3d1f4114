<script lang="ts">
  import PlaceMark from '../canvas/PlaceMark.svelte';
  import type { Stage } from '../canvas/stage.svelte';
  import type { Vector } from '../api/types';
  import { useStudio } from '../studio/studio.svelte';

  /** Where the finding under the pointer lies, where its light seems to come from, and its samples. */
  let { stage }: { stage: Stage } = $props();
  const studio = useStudio();
  const finding = $derived(studio.finder.shown);

  const region = $derived(
    (finding?.outline ?? [])
      .map((line) => `M${line.map((at) => point(at as Vector)).join('L')}Z`)
      .join(''),
  );
  const source = $derived.by(() => {
    if (!finding?.source) return null;
    const [x0, y0, x1, y1] = finding.source;
    const a = stage.toScreen([x0, y0]);
    const b = stage.toScreen([x1, y1]);
    return { x: a.x, y: a.y, width: b.x - a.x, height: b.y - a.y };
  });

  function point(at: Vector): string {
    const { x, y } = stage.toScreen(at);
    return `${x.toFixed(1)} ${y.toFixed(1)}`;
  }
</script>

{#if finding}
  <svg class="pointer-events-none absolute inset-0 h-full w-full" data-testid="finding-region">
    <path d={region} class="dark" />
    <path d={region} class="light" />
    {#if source}
      <rect {...source} class="dark" />
      <rect {...source} class="light dashed" />
    {/if}
  </svg>
  {#if source}
    <span class="photo-word" style:left="{source.x + 4}px" style:top="{Math.max(source.y, 0) + 4}px"
      >source?</span
    >
  {/if}
  {#each [['tainted', finding.tainted], ['untainted', finding.reference]] as const as [word, at] (word)}
    {#if at}
      <PlaceMark {stage} at={at as Vector} text={word} />
    {/if}
  {/each}
{/if}

<style>
  path,
  rect {
    fill: none;
  }
  .dark {
    stroke: #161616;
    stroke-width: 3;
  }
  .light {
    stroke: #f2f2f2;
    stroke-width: 1.2;
  }
  .dashed {
    stroke-dasharray: 6 5;
  }
</style>
