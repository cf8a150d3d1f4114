<script lang="ts">
  import { room } from '../room/room.svelte';
  import { onMount } from 'svelte';
  import { reasonOf } from '../api/client';
  import type { Measured, MeasuredPlace, PhotoWithRecipe, Recipe, Vector } from '../api/types';
  import { WAYS } from '../canvas/hand.svelte';
  import { drawLayers, Pictures } from '../canvas/pictures';
  import { Stage } from '../canvas/stage.svelte';
  import type { Point } from '../canvas/viewport';
  import { swatch } from '../instruments/swatch';
  import { QUIET } from '../finder/finder.svelte';
  import { Probe } from '../sample/probe.svelte';
  import { useStudio } from '../studio/studio.svelte';

  let { opened, untouched }: { opened: PhotoWithRecipe; untouched: boolean } = $props();
  const studio = useStudio();
  // One is made per photo.
  // svelte-ignore state_referenced_locally
  const { photo, state: kept } = opened;
  const stage = new Stage(photo);
  const probe = new Probe(photo.id, recipe, () => false);
  let holder: HTMLDivElement;
  let canvas: HTMLCanvasElement;
  let trouble = $state('');
  let pointer = $state.raw<Point | null>(null);
  let dragging: { last: Point; far: boolean } | null = null;

  const FAR = 4; // CSS pixels that tell a drag from a click
  const STEP = 8;

  const pictures = new Pictures(photo.id, draw, (error) => (trouble = reasonOf(error)), false);
  const seen = $derived(probe.measured && colourOf(probe.measured));

  function recipe(): Recipe | undefined {
    return untouched ? undefined : kept.recipe;
  }

  function colourOf({ before, now }: MeasuredPlace): Measured {
    return now ?? before;
  }

  onMount(() => {
    const unfollow = stage.follow(holder);
    return () => {
      unfollow();
      pictures.close();
    };
  });

  $effect(() => {
    const { width, height } = stage.canvas;
    if (width < 2) return;
    canvas.width = width;
    canvas.height = height;
    draw();
    const { view, whole } = stage;
    const show = untouched ? 'before' : 'now';
    pictures.want({
      recipe: kept.recipe,
      version: 0,
      view,
      whole,
      show,
      said: QUIET,
      ink: room.settings.ink,
      draft: false,
    });
  });

  function draw(): void {
    const context = canvas?.getContext('2d');
    if (context) drawLayers(context, [pictures.nowWhole, pictures.now], stage);
  }

  function pointOf(event: MouseEvent): Point {
    const box = holder.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }

  function hover(at: Point): void {
    pointer = at;
    const place = stage.toPlace(at);
    probe.hover(stage.onPhoto(place) ? place : null);
  }

  function down(event: PointerEvent): void {
    holder.setPointerCapture(event.pointerId);
    dragging = { last: pointOf(event), far: false };
  }

  function move(event: PointerEvent): void {
    const at = pointOf(event);
    if (dragging) {
      const [dx, dy] = [at.x - dragging.last.x, at.y - dragging.last.y];
      if (dragging.far || Math.hypot(dx, dy) > FAR) {
        stage.pan(dx, dy);
        dragging = { last: at, far: true };
      }
    }
    hover(at);
  }

  async function up(event: PointerEvent): Promise<void> {
    const click = dragging && !dragging.far;
    dragging = null;
    if (click) await take(stage.toPlace(pointOf(event)));
  }

  async function take(place: Vector): Promise<void> {
    if (!stage.onPhoto(place)) return;
    await studio.attempt(async () => {
      const radius = studio.probe.radius;
      const measured = await probe.measure(place, radius, { recipe: recipe() });
      studio.sampler.fromPhoto(photo.title, colourOf(measured));
    });
  }

  function wheel(event: WheelEvent): void {
    event.preventDefault();
    const { x, y } = pointOf(event);
    const factor = Math.exp(-event.deltaY * (event.ctrlKey ? 0.008 : 0.0016));
    stage.zoomTo(stage.viewport.scale * factor, { x: x * stage.dpr, y: y * stage.dpr });
  }

  function key(event: KeyboardEvent): void {
    const at = pointer ?? { x: holder.clientWidth / 2, y: holder.clientHeight / 2 };
    const way = WAYS[event.key];
    if (!way && event.key !== 'Enter') return;
    event.preventDefault();
    event.stopPropagation();
    if (!way) void take(stage.toPlace(at));
    else {
      const step = event.shiftKey ? 50 : STEP;
      hover({ x: at.x + way[0] * step, y: at.y + way[1] * step });
    }
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<div
  bind:this={holder}
  class="relative min-h-0 flex-1 cursor-crosshair touch-none overflow-hidden"
  role="application"
  aria-label="{photo.title}, beside. Arrow keys move the pointer, Enter takes the reference."
  tabindex="0"
  onpointerdown={down}
  onpointermove={move}
  onpointerup={up}
  onpointerleave={() => {
    pointer = null;
    probe.hover(null);
  }}
  onwheel={wheel}
  onkeydown={key}
>
  <canvas bind:this={canvas} class="absolute inset-0 h-full w-full"></canvas>
  {#if pointer}
    <span
      class="pointer-events-none absolute h-3 w-3 -translate-x-1/2 -translate-y-1/2 border border-[#f2f2f2] mix-blend-difference"
      style:left="{pointer.x}px"
      style:top="{pointer.y}px"
    ></span>
  {/if}
</div>
<p class="flex min-h-[34px] items-center gap-2 bg-panel px-2 text-small">
  {#if trouble}
    {trouble}.
  {:else if seen}
    <span class="h-5 w-8" style:background={swatch(seen)}></span>
    {seen.lab.map((v) => v.toFixed(1)).join(' ')}
  {:else}
    <span class="text-ink2">Click what the sample should look like. Drag moves the photo.</span>
  {/if}
</p>
