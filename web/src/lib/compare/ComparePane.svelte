<script lang="ts">
  import type { Stage } from '../canvas/stage.svelte';
  import { useStudio } from '../studio/studio.svelte';
  import type { Side } from './compare.svelte';
  import CompareLayer from './CompareLayer.svelte';

  /** The other state, beside the photo: under the same stage, so zoom and pan are locked. */
  let { stage, side }: { stage: Stage; side: Side } = $props();
  const { compare } = useStudio();
  let last: { x: number; y: number } | null = null;

  function wheel(event: WheelEvent & { currentTarget: HTMLElement }): void {
    event.preventDefault();
    const box = event.currentTarget.getBoundingClientRect();
    const { dpr, viewport } = stage;
    const at = { x: (event.clientX - box.left) * dpr, y: (event.clientY - box.top) * dpr };
    stage.zoomTo(viewport.scale * Math.exp(-event.deltaY * 0.0016), at);
  }

  function move(event: PointerEvent): void {
    if (!last) return;
    stage.pan(event.clientX - last.x, event.clientY - last.y);
    last = { x: event.clientX, y: event.clientY };
  }
</script>

<section class="grid min-h-0 min-w-0" aria-label="The state beside">
  <div
    class="relative min-h-0 min-w-0 touch-none overflow-hidden bg-surround"
    role="img"
    aria-label="{compare.nameOf(side)}, beside the photo"
    onwheel={wheel}
    onpointerdown={(event) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      last = { x: event.clientX, y: event.clientY };
    }}
    onpointermove={move}
    onpointerup={() => (last = null)}
  >
    <CompareLayer {stage} {side} />
    <p class="absolute top-3 left-3 bg-ink px-2 py-1 text-inverse">{compare.nameOf(side)}</p>
    {#if compare.mode === 'several' && side !== 'untouched' && side !== 'now'}
      <button
        class="button absolute right-3 bottom-3"
        onpointerdown={(event) => event.stopPropagation()}
        onclick={() => compare.goOnWith(side)}>Go on with this</button
      >
    {/if}
  </div>
</section>
