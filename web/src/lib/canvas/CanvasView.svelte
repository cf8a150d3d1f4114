<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { reasonOf } from '../api/client';
  import type { Stroke, Vector } from '../api/types';
  import { BRUSHING, SAMPLING, useStudio } from '../studio/studio.svelte';
  import BrushCursor from './BrushCursor.svelte';
  import Loupe from './Loupe.svelte';
  import { Pictures } from './pictures';
  import PhotoTags from './PhotoTags.svelte';
  import type { Stage } from './stage.svelte';
  import { drawEcho, extended, pressureOf } from './stroke';
  import type { Point } from './viewport';

  interface Props {
    stage: Stage;
    /** Whether the key that turns every tool into a panning hand is held. */
    panning: boolean;
  }
  let { stage, panning }: Props = $props();

  const studio = useStudio();
  let holder: HTMLDivElement;
  let photoCanvas: HTMLCanvasElement;
  let echoCanvas: HTMLCanvasElement;
  let pointer = $state.raw<Point | null>(null);
  let drag = $state.raw<{ id: number; last: Point } | null>(null);
  let stroke = $state.raw<Stroke | null>(null);
  let echoes: { stroke: Stroke; version: number }[] = [];
  let painted = $state(-1);
  /** The ring shows only to those who came by the keyboard: it must not lie round a judged picture. */
  let byKeyboard = $state(false);
  const pictures = new Pictures(
    studio.photo.id,
    () => {
      painted = pictures.now?.version ?? -1;
      studio.content('picture');
      echoes = echoes.filter((e) => e.version > painted);
      drawPhoto();
      drawEchoes();
    },
    (error) => studio.complain('picture', reasonOf(error)),
  );

  const brushing = $derived(BRUSHING.includes(studio.tool) && !panning);
  const sampling = $derived(SAMPLING.includes(studio.tool) && !panning);

  onMount(() => {
    const observer = new ResizeObserver(([entry]) => {
      if (entry) stage.resize(entry.contentRect.width, entry.contentRect.height);
    });
    observer.observe(holder);
    return () => {
      observer.disconnect();
      pictures.close();
    };
  });

  $effect(() => {
    const { width, height } = stage.canvas;
    if (width < 2) return;
    const wanted = {
      recipe: studio.recipe,
      version: studio.version,
      view: stage.view,
      whole: stage.whole,
      show: studio.show,
      cast: studio.castId,
      draft: studio.moving,
    };
    untrack(() => {
      for (const canvas of [photoCanvas, echoCanvas]) {
        if (canvas.width !== width || canvas.height !== height) {
          canvas.width = width;
          canvas.height = height;
        }
      }
      pictures.want(wanted);
    });
  });

  $effect(() => {
    void stage.viewport;
    void studio.untouched;
    drawPhoto();
    drawEchoes();
  });

  function drawPhoto(): void {
    const context = photoCanvas?.getContext('2d');
    if (!context) return;
    context.clearRect(0, 0, photoCanvas.width, photoCanvas.height);
    const layers = studio.untouched
      ? [pictures.beforeWhole, pictures.before]
      : [pictures.nowWhole, pictures.now];
    context.imageSmoothingEnabled = stage.viewport.scale <= 1;
    for (const layer of layers) {
      if (!layer) continue;
      const { left, top, width, height } = stage.placeOf(layer.view);
      context.drawImage(layer.bitmap, left, top, width, height);
    }
  }

  function drawEchoes(): void {
    const context = echoCanvas?.getContext('2d');
    if (!context) return;
    context.clearRect(0, 0, echoCanvas.width, echoCanvas.height);
    for (const one of [...echoes.map((e) => e.stroke), ...(stroke ? [stroke] : [])]) {
      drawEcho(
        context,
        one,
        (at) => stage.toCanvas(at),
        (fraction) => stage.lengthOnCanvas(fraction),
      );
    }
  }

  function pointOf(event: { clientX: number; clientY: number }): Point {
    const box = holder.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }

  function down(event: PointerEvent): void {
    if (event.button > 1) return;
    byKeyboard = false;
    holder.setPointerCapture(event.pointerId);
    const at = pointOf(event);
    if (event.button === 1 || panning || studio.tool === 'look') {
      drag = { id: event.pointerId, last: at };
    } else if (brushing) {
      startStroke(stage.toPlace(at), pressureOf(event), event.altKey);
    } else if (stage.onPhoto(stage.toPlace(at))) {
      void studio.sampleAt(stage.toPlace(at), event.shiftKey);
    }
  }

  function move(event: PointerEvent): void {
    const at = pointOf(event);
    pointer = at;
    if (drag) {
      stage.pan(at.x - drag.last.x, at.y - drag.last.y);
      drag = { ...drag, last: at };
    } else if (stroke) {
      const events = event.getCoalescedEvents?.() ?? [event];
      let { points } = stroke;
      for (const one of events.length ? events : [event])
        points = extended(points, stage.toPlace(pointOf(one)), pressureOf(one), stroke.size);
      stroke = { ...stroke, points };
      drawEchoes();
    }
    const place = stage.toPlace(at);
    studio.hover(stage.onPhoto(place) ? place : null);
  }

  function up(): void {
    drag = null;
    endStroke();
  }

  function startStroke(at: Vector, pressure: number, erasing: boolean): void {
    if (!studio.cast) {
      studio.complain('work', 'A mask belongs to a cast: sample a tainted place first');
      return;
    }
    const erase = studio.tool === 'erase' || erasing;
    stroke = { ...studio.brush, erase, points: [[at, pressure]] };
    drawEchoes();
  }

  function endStroke(): void {
    if (!stroke) return;
    const done = stroke;
    stroke = null;
    studio.addStroke(done);
    echoes.push({ stroke: done, version: studio.version });
    drawEchoes();
  }

  function wheel(event: WheelEvent): void {
    event.preventDefault();
    const delta = event.deltaMode === 1 ? event.deltaY * 16 : event.deltaY;
    if (event.altKey && brushing) {
      const size = studio.brush.size * Math.exp(-delta * 0.001);
      studio.brush.size = Math.min(Math.max(size, 0.002), 1);
      return;
    }
    const at = pointOf(event);
    const factor = Math.exp(-delta * (event.ctrlKey ? 0.008 : 0.0016));
    stage.zoomTo(stage.viewport.scale * factor, { x: at.x * stage.dpr, y: at.y * stage.dpr });
  }

  /** The keyboard moves a cross over the photo and clicks with Enter. */
  function key(event: KeyboardEvent): void {
    const ways: Record<string, Vector> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, -1],
      ArrowDown: [0, 1],
    };
    const way = ways[event.key];
    const box = holder.getBoundingClientRect();
    const at = pointer ?? { x: box.width / 2, y: box.height / 2 };
    if (way) {
      event.preventDefault();
      byKeyboard = true;
      const step = event.shiftKey ? 50 : event.altKey ? 1 : 8;
      pointer = { x: at.x + way[0] * step, y: at.y + way[1] * step };
      const place = stage.toPlace(pointer);
      studio.hover(stage.onPhoto(place) ? place : null);
    } else if (event.key === 'Enter') {
      event.preventDefault();
      const place = stage.toPlace(at);
      if (sampling && stage.onPhoto(place)) void studio.sampleAt(place, event.shiftKey);
      if (brushing) {
        startStroke(place, 1, event.altKey);
        endStroke();
      }
    }
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<div
  bind:this={holder}
  class="relative h-full w-full touch-none overflow-hidden bg-surround outline-none"
  class:ringed={byKeyboard}
  class:cursor-grab={panning || studio.tool === 'look'}
  class:cursor-grabbing={drag}
  class:cursor-none={brushing}
  class:cursor-crosshair={sampling}
  role="application"
  aria-label="The photo. Arrow keys move the pointer, Enter clicks."
  tabindex="0"
  data-painted={painted}
  data-version={studio.version}
  onpointerdown={down}
  onpointermove={move}
  onpointerup={up}
  onpointercancel={up}
  onpointerleave={() => {
    pointer = null;
    studio.hover(null);
  }}
  onwheel={wheel}
  onkeydown={key}
  onfocus={() => (byKeyboard = !holder.matches(':active'))}
  onblur={() => {
    pointer = null;
    byKeyboard = false;
  }}
>
  <canvas bind:this={photoCanvas} class="absolute inset-0 h-full w-full"></canvas>
  <canvas bind:this={echoCanvas} class="absolute inset-0 h-full w-full"></canvas>
  {#if !studio.untouched}<PhotoTags {stage} />{/if}
  {#if pointer && brushing}<BrushCursor {stage} at={pointer} />{/if}
  {#if pointer && sampling && studio.place}<Loupe {stage} at={pointer} />{/if}
  {#if studio.untouched}
    <p class="absolute top-3 left-3 bg-ink px-2 py-1 text-inverse">Untouched</p>
  {/if}
</div>

<style>
  .ringed::after {
    content: '';
    position: absolute;
    inset: 0;
    pointer-events: none;
    box-shadow: inset 0 0 0 3px var(--ink);
  }
</style>
