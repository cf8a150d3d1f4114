<script lang="ts">
  import { useStudio } from '../studio/studio.svelte';
  import { SCRIBBLING } from '../studio/tools';
  import type { Stage } from './stage.svelte';
  import type { Point } from './viewport';

  let { stage, at }: { stage: Stage; at: Point } = $props();
  const studio = useStudio();

  const outer = $derived(stage.lengthOnCanvas(studio.masking.penSize) / stage.dpr / 2);
  /** Where full effect ends. */
  const inner = $derived(
    outer * (1 - (SCRIBBLING.includes(studio.tool) ? 0 : studio.masking.brush.feather)),
  );
  const erasing = $derived(studio.tool === 'erase' || studio.tool === 'other');
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
