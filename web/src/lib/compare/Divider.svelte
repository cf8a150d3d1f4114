<script lang="ts">
  import { WAYS } from '../canvas/hand.svelte';
  import { useStudio } from '../studio/studio.svelte';

  /** The line of a split: its middle is dragged anywhere, its other knob turns it. */
  const { compare } = useStudio();
  let line: HTMLDivElement;
  const STEP = 0.02;
  const TURN_STEP = 5;

  function placeOf(event: PointerEvent): { x: number; y: number } {
    const box = (line.parentElement as HTMLElement).getBoundingClientRect();
    return { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height };
  }

  function down(event: PointerEvent & { currentTarget: HTMLElement }): void {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
  }

  function move(event: PointerEvent & { currentTarget: HTMLElement }): void {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    event.stopPropagation();
    compare.moveDivider(placeOf(event));
  }

  function turn(event: PointerEvent & { currentTarget: HTMLElement }): void {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    event.stopPropagation();
    const box = (line.parentElement as HTMLElement).getBoundingClientRect();
    const dx = event.clientX - box.left - compare.divider.x * box.width;
    const dy = event.clientY - box.top - compare.divider.y * box.height;
    const free = (Math.atan2(dy, dx) * 180) / Math.PI - 90;
    // Upright and level are held on to, unless Shift says otherwise.
    const nearest = Math.round(free / 90) * 90;
    compare.moveDivider({ turn: !event.shiftKey && Math.abs(free - nearest) < 4 ? nearest : free });
  }

  function key(event: KeyboardEvent): void {
    const way = WAYS[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    const { x, y, turn: now } = compare.divider;
    if (event.shiftKey) compare.moveDivider({ turn: now + (way[0] + way[1]) * TURN_STEP });
    else compare.moveDivider({ x: x + way[0] * STEP, y: y + way[1] * STEP });
  }
</script>

<div
  bind:this={line}
  class="line"
  style:left="{compare.divider.x * 100}%"
  style:top="{compare.divider.y * 100}%"
  style:transform="rotate({compare.divider.turn}deg)"
>
  <button
    class="knob"
    aria-label="Divider: drag, or arrow keys; with Shift they turn it"
    title="Drag the divider"
    onpointerdown={down}
    onpointermove={move}
    onkeydown={key}
  ></button>
  <button
    class="knob turning"
    tabindex="-1"
    aria-label="Turn the divider"
    title="Turn the divider"
    onpointerdown={down}
    onpointermove={turn}
  ></button>
</div>

<style>
  .line {
    position: absolute;
    width: 0;
    height: 0;
  }
  .line::before {
    content: '';
    position: absolute;
    left: -1px;
    top: -3000px;
    width: 2px;
    height: 6000px;
    background: #f2f2f2;
    outline: 1px solid #161616;
    pointer-events: none;
  }
  .knob {
    position: absolute;
    left: -12px;
    top: -12px;
    width: 24px;
    height: 24px;
    border: 2px solid #161616;
    background: #f2f2f2;
    cursor: move;
    touch-action: none;
  }
  .knob.turning {
    left: -8px;
    top: 92px;
    width: 16px;
    height: 16px;
    transform: rotate(45deg);
    background: #161616;
    border-color: #f2f2f2;
    cursor: grab;
  }
</style>
