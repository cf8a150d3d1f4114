<script lang="ts">
  import type { Range } from '../api/types';
  import NumberField from '../controls/NumberField.svelte';
  import { type Handle, HANDLES, moved, turned, TWINS, valueOf } from './band';

  interface Props {
    label: string;
    range: Range;
    extent: number;
    wraps?: boolean;
    ground: string;
    /** How much there is along the band, in the photo and under the mask, 0..1. */
    photo?: number[];
    masked?: number[];
    onpreview: (range: Range) => void;
    oncommit: (range: Range) => void;
  }
  let {
    label,
    range,
    extent,
    wraps = false,
    ground,
    photo = [],
    masked = [],
    onpreview,
    oncommit,
  }: Props = $props();

  let band: HTMLDivElement;
  let drag: { handle: Handle; from: number; range: Range } | null = null;

  const turns = $derived(wraps ? [-extent, 0, extent] : [0]);
  const percent = (value: number) => (value / extent) * 100;

  /** Steps from the ground up, one for each bin. */
  function hill(levels: number[]): string {
    if (!levels.length) return '';
    const wide = 100 / levels.length;
    const tops = levels.map(
      (v, i) => `V${(20 - 18 * v).toFixed(1)}H${((i + 1) * wide).toFixed(2)}`,
    );
    return `M0 20${tops.join('')}V20Z`;
  }

  function valueAt(event: PointerEvent): number {
    const box = band.getBoundingClientRect();
    return ((event.clientX - box.left) / box.width) * extent;
  }

  function down(event: PointerEvent, handle: Handle): void {
    event.preventDefault();
    event.stopPropagation();
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    drag = { handle, from: valueAt(event), range };
  }

  function move(event: PointerEvent): void {
    if (!drag) return;
    const by = valueAt(event) - drag.from;
    // With Shift the other side does the same, with Alt every handle goes along.
    const handle = event.altKey ? 'core' : drag.handle;
    const one = moved(drag.range, handle, by, extent, wraps);
    const twin = event.shiftKey && !event.altKey ? TWINS[drag.handle] : undefined;
    onpreview(twin ? moved(one, twin, -by, extent, wraps) : one);
  }

  function up(): void {
    if (drag) oncommit(turned(range, extent, wraps));
    drag = null;
  }

  function key(event: KeyboardEvent, handle: Handle): void {
    const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!way) return;
    event.preventDefault();
    const by = way * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1);
    oncommit(moved(range, handle, by, extent, wraps));
  }

  const names: Record<Handle, string> = {
    'fade-low': 'lower fade',
    'core-low': 'core from',
    core: 'core',
    'core-high': 'core to',
    'fade-high': 'upper fade',
  };
</script>

<div class="flex h-[28px] items-center gap-2" class:opacity-50={!range.on}>
  <label
    class="flex w-[86px] shrink-0 items-center gap-1.5"
    title="Shift mirrors a handle, Alt moves all, a double click opens the range"
  >
    <input
      type="checkbox"
      class="h-3.5 w-3.5 accent-[var(--ink)]"
      checked={range.on}
      onchange={(event) => oncommit({ ...range, on: event.currentTarget.checked })}
    />
    {label}
  </label>
  <div
    bind:this={band}
    class="relative h-[20px] min-w-0 flex-1 overflow-hidden"
    style:background={ground}
    role="presentation"
    ondblclick={() => oncommit({ ...range, core: [0, extent], fade: [0, 0] })}
  >
    <svg
      class="absolute inset-0 h-full w-full"
      viewBox="0 0 100 20"
      preserveAspectRatio="none"
      data-testid="levels"
      aria-hidden="true"
    >
      <path d={hill(photo)} fill="#161616" fill-opacity="0.38" />
      <path d={hill(masked)} fill="#f2f2f2" fill-opacity="0.85" />
    </svg>
    {#each turns as turn (turn)}
      <span
        class="line"
        style:left="{percent(valueOf(range, 'fade-low') + turn)}%"
        style:width="{percent(valueOf(range, 'fade-high') - valueOf(range, 'fade-low'))}%"
      ></span>
      <span
        class="box"
        role="presentation"
        style:left="{percent(range.core[0] + turn)}%"
        style:width="{percent(range.core[1] - range.core[0])}%"
        onpointerdown={(event) => down(event, 'core')}
        onpointermove={move}
        onpointerup={up}
      ></span>
      {#each HANDLES as handle (handle)}
        <span
          class="handle {handle}"
          role="slider"
          tabindex={turn === 0 ? 0 : -1}
          aria-label="{label}, {names[handle]}"
          aria-hidden={turn !== 0}
          aria-valuemin={wraps ? -extent : 0}
          aria-valuemax={extent}
          aria-valuenow={Math.round(valueOf(range, handle))}
          style:left="{percent(valueOf(range, handle) + turn)}%"
          onpointerdown={(event) => down(event, handle)}
          onpointermove={move}
          onpointerup={up}
          onkeydown={(event) => key(event, handle)}
        ></span>
      {/each}
    {/each}
  </div>
  <NumberField
    label="{label}, core from"
    value={range.core[0]}
    least={0}
    most={wraps ? range.core[1] : range.core[1]}
    step={1}
    width={40}
    onchange={(low) => oncommit({ ...range, core: [low, range.core[1]] })}
  />
  <NumberField
    label="{label}, core to"
    value={range.core[1]}
    least={range.core[0]}
    most={wraps ? range.core[0] + extent : extent}
    step={1}
    width={40}
    onchange={(high) => oncommit({ ...range, core: [range.core[0], high] })}
  />
</div>

<style>
  .box {
    position: absolute;
    top: 0;
    height: 100%;
    border: 2px solid #161616;
    box-shadow:
      0 0 0 1px #f2f2f2 inset,
      0 0 0 1px #f2f2f2;
    cursor: grab;
    touch-action: none;
  }
  .line {
    position: absolute;
    top: calc(50% - 1.5px);
    height: 3px;
    background: #161616;
    border-block: 0.5px solid #f2f2f2;
    pointer-events: none;
  }
  .handle {
    position: absolute;
    top: 0;
    width: 10px;
    height: 100%;
    margin-left: -5px;
    cursor: ew-resize;
    touch-action: none;
  }
  .handle.fade-low,
  .handle.fade-high {
    background: linear-gradient(#161616, #161616) center / 3px 10px no-repeat;
  }
</style>
