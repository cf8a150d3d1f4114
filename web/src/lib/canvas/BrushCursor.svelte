<script lang="ts">
  import { useStudio } from '../studio/studio.svelte';
  import { SCRIBBLE, SCRIBBLING, WASHING } from '../studio/tools';
  import type { Stage } from './stage.svelte';
  import type { Point } from './viewport';

  let { stage, at }: { stage: Stage; at: Point } = $props();
  const studio = useStudio();

  const pen = $derived.by(() => {
    if (SCRIBBLING.includes(studio.tool)) return { size: SCRIBBLE, feather: 0 };
    return WASHING.includes(studio.tool) ? studio.washing.brush : studio.masking.brush;
  });
  const outer = $derived(stage.lengthOnCanvas(pen.size) / stage.dpr / 2);
  /** Where full effect ends. */
  const inner = $derived(outer * (1 - pen.feather));
  const erasing = $derived(['erase', 'other', 'unwash'].includes(studio.tool));
</script>

<svg class="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true">
  {#each [['#161616', '2.6'], ['#f2f2f2', '1.1']] as [colour, width] (colour)}
    <g fill="none" stroke={colour} stroke-width={width} transform="translate({at.x} {at.y})">
      <circle r={outer} />
      <circle r={inner} stroke-dasharray="2 4" />
      <path d={erasing ? 'M-5 0H5' : 'M-5 0H5M0 -5V5'} />
    </g>
  {/each}
</svg>
