<script lang="ts">
  import type { Stage } from '../canvas/stage.svelte';
  import { WAYS } from '../canvas/hand.svelte';
  import type { Path, Vector } from '../api/types';
  import { useStudio } from '../studio/studio.svelte';
  import { isDrawing } from '../studio/tools';
  import {
    handlesOf,
    isShape,
    movedHandle,
    svgOf,
    turnedNode,
    withNodeAfter,
    withNodeAt,
    withoutNode,
    type Handle,
    type Shape,
  } from './shape';

  /** The outline of the selected shape with its handles, or of the one being drawn. */
  let { stage }: { stage: Stage } = $props();
  const studio = useStudio();
  const drawing = studio.drawing;
  const busy = $derived(isDrawing(studio.tool) && !drawing.idle);
  const MOST_SHOWN = 120; // handles of a freehand outline would hide it

  const part = $derived(isShape(studio.masking.part) ? studio.masking.part : null);
  const handles = $derived(part && studio.tool === 'look' ? handlesOf(part) : []);
  let dragged: { handle: Handle; alone: boolean } | null = null;

  const show = (at: Vector): string => {
    const { x, y } = stage.toScreen(at);
    return `${x.toFixed(1)} ${y.toFixed(1)}`;
  };

  function around(centre: Vector, radii: Vector, angle: number) {
    const { x, y } = stage.toScreen(centre);
    const [rx, ry] = radii.map((r) => stage.lengthOnCanvas(r) / stage.dpr) as Vector;
    return { x, y, rx, ry, turn: `rotate(${angle} ${x} ${y})` };
  }

  const oval = $derived.by(() => {
    if (busy && drawing.span && drawing.kind === 'oval') {
      const [[ax, ay], [bx, by]] = drawing.span;
      return around([ax, ay], [Math.abs(bx - ax), Math.abs(by - ay)], 0);
    }
    return part?.kind === 'oval' ? around(part.centre, part.radii, part.angle) : null;
  });
  const line = $derived.by(() => {
    if (busy && drawing.nodes.length) return svgOf(drawing.nodes, false, show);
    if (busy && drawing.span && drawing.kind === 'ramp')
      return `M${drawing.span.map(show).join('L')}`;
    if (part?.kind === 'path') return svgOf(part.nodes, true, show);
    if (part?.kind === 'ramp') return `M${show(part.full)}L${show(part.none)}`;
    return '';
  });
  const stems = $derived(
    part?.kind === 'path'
      ? handles
          .filter((h) => h.side && h.node !== undefined)
          .map((h) => `M${show(part.nodes[h.node ?? 0]?.at ?? h.at)}L${show(h.at)}`)
          .join('')
      : '',
  );

  function change(to: (shape: Shape) => Shape, done: boolean): void {
    studio.masking.changePart((p) => (isShape(p) ? to(p) : p), done);
  }

  function down(event: PointerEvent & { currentTarget: HTMLElement }, handle: Handle): void {
    event.stopPropagation();
    if (event.button) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    dragged = { handle, alone: event.altKey };
  }

  /** A press on the outline puts a point there, which the pointer takes along. */
  function downOnLine(event: PointerEvent & { currentTarget: SVGElement }): void {
    const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    if (event.button || part?.kind !== 'path' || !box) return;
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    const at = stage.toPlace({ x: event.clientX - box.left, y: event.clientY - box.top });
    const { path, node } = withNodeAt(part, at);
    change(() => path, false);
    dragged = { handle: { name: '', at, node }, alone: false };
  }

  function move(event: PointerEvent & { currentTarget: Element }): void {
    if (!dragged) return;
    event.stopPropagation();
    const box = event.currentTarget.closest('[role=application]')?.getBoundingClientRect();
    if (!box) return;
    const to = stage.toPlace({ x: event.clientX - box.left, y: event.clientY - box.top });
    const { handle, alone } = dragged;
    change((shape) => movedHandle(shape, handle, to, alone), false);
  }

  function up(event: PointerEvent): void {
    event.stopPropagation();
    if (dragged && studio.moving) studio.commit();
    dragged = null;
  }

  function key(event: KeyboardEvent, handle: Handle): void {
    const way = WAYS[event.key];
    const { node } = handle;
    const onNode = node !== undefined && !handle.side;
    const path = (to: (path: Path) => Path) =>
      change((shape) => (shape.kind === 'path' ? to(shape) : shape), true);
    if (way) {
      const step = (event.shiftKey ? 10 : 1) / stage.longEdge;
      const to: Vector = [handle.at[0] + way[0] * step, handle.at[1] + way[1] * step];
      change((shape) => movedHandle(shape, handle, to, event.altKey), true);
    } else if (onNode && event.key === 'Delete') path((p) => withoutNode(p, node));
    else if (onNode && event.key === 'Insert') path((p) => withNodeAfter(p, node));
    else if (onNode && event.key === 'Enter') path((p) => turnedNode(p, node));
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  function turn({ node, side }: Handle): void {
    if (node === undefined || side) return;
    change((shape) => (shape.kind === 'path' ? turnedNode(shape, node) : shape), true);
  }
</script>

<svg
  class="pointer-events-none absolute inset-0 h-full w-full"
  data-testid="shape"
  aria-hidden="true"
>
  {#each [['#161616', 3], ['#f2f2f2', 1.2]] as const as [colour, width] (colour)}
    {#if oval}
      <ellipse
        cx={oval.x}
        cy={oval.y}
        rx={oval.rx}
        ry={oval.ry}
        transform={oval.turn}
        fill="none"
        stroke={colour}
        stroke-width={width}
      />
    {/if}
    <path d={line + stems} fill="none" stroke={colour} stroke-width={width} />
    {#if busy && drawing.kind === 'path'}
      {#each drawing.nodes as node, i (i)}
        {@const { x, y } = stage.toScreen(node.at)}
        <circle cx={x} cy={y} r={i ? 3 : 6} fill="none" stroke={colour} stroke-width={width} />
      {/each}
    {/if}
  {/each}
  {#if part?.kind === 'path' && handles.length && handles.length <= MOST_SHOWN}
    <path
      class="line"
      data-testid="outline"
      d={line}
      role="presentation"
      onpointerdown={downOnLine}
      onpointermove={move}
      onpointerup={up}
    />
  {/if}
</svg>
{#if handles.length <= MOST_SHOWN}
  {#each handles as handle (handle.name)}
    {@const { x, y } = stage.toScreen(handle.at)}
    <button
      class="handle"
      class:side={handle.side}
      style:left="{x}px"
      style:top="{y}px"
      aria-label="{studio.masking.part?.kind}, {handle.name}"
      title={handle.node !== undefined && !handle.side
        ? 'Drag. Double click: corner or smooth. Insert adds, Delete removes a point.'
        : handle.name}
      onpointerdown={(event) => down(event, handle)}
      onpointermove={move}
      onpointerup={up}
      onkeydown={(event) => key(event, handle)}
      ondblclick={() => turn(handle)}
    ></button>
  {/each}
{/if}

<style>
  .line {
    fill: none;
    stroke: transparent;
    stroke-width: 11px;
    pointer-events: stroke;
    cursor: copy;
  }
  .handle {
    position: absolute;
    width: 10px;
    height: 10px;
    transform: translate(-50%, -50%);
    border: 1.5px solid #161616;
    background: #f2f2f2;
    cursor: move;
    touch-action: none;
  }
  .handle::after {
    content: '';
    position: absolute;
    inset: -8px;
  }
  .handle.side {
    transform: translate(-50%, -50%) rotate(45deg) scale(0.8);
    background: #161616;
    border-color: #f2f2f2;
  }
</style>
