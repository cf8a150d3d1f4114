<script lang="ts">
  import { BENCH_HEIGHT } from '../room/room.svelte';
  import { HIGHEST, LOWEST } from './bench.svelte';
  import { useStudio } from './studio.svelte';

  /** Sets the bench's height by dragging, by the arrow keys, or back to rest by a double click. */
  const { bench } = useStudio();
  let from: { y: number; height: number } | null = null;
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<div
  class="absolute -top-[5px] left-1/2 z-10 h-[9px] w-20 -translate-x-1/2 cursor-ns-resize touch-none border border-line bg-raised"
  role="separator"
  tabindex="0"
  aria-orientation="horizontal"
  aria-label="Height of the bench"
  aria-valuemin={LOWEST}
  aria-valuemax={HIGHEST}
  aria-valuenow={bench.height}
  onpointerdown={(event) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    from = { y: event.clientY, height: bench.height };
  }}
  onpointermove={(event) => from && (bench.height = from.height + from.y - event.clientY)}
  onpointerup={() => (from = null)}
  ondblclick={() => (bench.height = BENCH_HEIGHT)}
  onkeydown={(event) => {
    const way = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    if (!way) return;
    event.preventDefault();
    bench.height += way * (event.shiftKey ? 50 : 10);
  }}
></div>
