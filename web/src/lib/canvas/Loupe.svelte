<script lang="ts">
  import Figures from '../instruments/Figures.svelte';
  import { swatch } from '../instruments/swatch';
  import { useStudio } from '../studio/studio.svelte';
  import type { Stage } from './stage.svelte';
  import type { Point } from './viewport';

  let { stage, at }: { stage: Stage; at: Point } = $props();
  const studio = useStudio();

  const WIDTH = 150;
  const HEIGHT = 208;
  const AWAY = 22;
  const size = $derived({
    width: stage.canvas.width / stage.dpr,
    height: stage.canvas.height / stage.dpr,
  });
  const left = $derived(at.x + AWAY + WIDTH < size.width ? at.x + AWAY : at.x - AWAY - WIDTH);
  const top = $derived(Math.min(Math.max(at.y - HEIGHT / 2, 8), size.height - HEIGHT - 8));
  const measured = $derived(studio.probe.measured);
  const pixel = $derived(measured?.patch_pixels ? WIDTH / measured.patch_pixels : 0);
  const disc = $derived(Math.max(studio.probe.radius * studio.longEdge, 0.75) * pixel);
</script>

{#if measured?.patch}
  <div
    class="pointer-events-none absolute border border-ink bg-raised shadow-lg"
    style:left="{left}px"
    style:top="{top}px"
    style:width="{WIDTH + 2}px"
    aria-hidden="true"
    data-testid="loupe"
  >
    <div class="relative overflow-hidden" style:height="{WIDTH}px">
      <img src={measured.patch} alt="" class="h-full w-full [image-rendering:pixelated]" />
      <svg class="absolute inset-0 h-full w-full" viewBox="0 0 {WIDTH} {WIDTH}" fill="none">
        <circle cx={WIDTH / 2} cy={WIDTH / 2} r={disc} stroke="#161616" stroke-width="2.4" />
        <circle cx={WIDTH / 2} cy={WIDTH / 2} r={disc} stroke="#f2f2f2" />
      </svg>
    </div>
    <div class="flex items-stretch gap-2 p-1.5">
      <span class="w-9 shrink-0 border border-line" style:background={swatch(measured.before)}
      ></span>
      <Figures lab={measured.before.lab} />
    </div>
  </div>
{/if}
