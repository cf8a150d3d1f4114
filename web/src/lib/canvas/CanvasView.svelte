<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { reasonOf } from '../api/client';
  import type { Stroke } from '../api/types';
  import { useStudio } from '../studio/studio.svelte';
  import CompareLayers from '../compare/CompareLayers.svelte';
  import BoxOverlay from './BoxOverlay.svelte';
  import BrushCursor from './BrushCursor.svelte';
  import FindingOverlay from '../finder/FindingOverlay.svelte';
  import { Hand } from './hand.svelte';
  import Loupe from './Loupe.svelte';
  import { drawLayers, fitCanvas, Pictures } from './pictures';
  import PhotoTags from './PhotoTags.svelte';
  import PlaceMark from './PlaceMark.svelte';
  import ShapeOverlay from '../shapes/ShapeOverlay.svelte';
  import { room } from '../room/room.svelte';
  import { isDrawing, type Tool } from '../studio/tools';
  import { descriptorOf } from '../remedy/descriptors';
  import type { Stage } from './stage.svelte';
  import { Echoes } from './stroke';

  interface Props {
    stage: Stage;
    /** Whether the key that turns every tool into one that moves the photo is held. */
    panning: boolean;
  }
  let { stage, panning }: Props = $props();

  const studio = useStudio();
  const { proving } = studio;
  const TOOL_HINTS: Partial<Record<Tool, string>> = {
    similar: 'Click a place: what looks like it and hangs together with it. Shift adds a place.',
    who: 'Click the person whose it is to be.',
    this: 'Scribble over the object.',
    other: 'Scribble over what is not the object.',
    key: 'Click or drag over colours. Shift adds them, Alt leaves them out.',
  };
  const DRAW_HINTS = {
    lasso: 'Draw round the place.',
    path: 'Click points, drag for curves; the first point or Enter on it closes.',
    oval: 'Drag from the middle outwards.',
    ramp: 'Drag from where it is full to where it ends.',
    snap: 'Draw loosely round the object: its own edge is found.',
  };
  let holder: HTMLDivElement;
  let photoCanvas: HTMLCanvasElement;
  let echoCanvas: HTMLCanvasElement;
  let painted = $state(-1);
  /** Strokes that the engine's picture does not show yet. */
  let echoes: { stroke: Stroke; version: number }[] = [];
  // svelte-ignore state_referenced_locally
  const echo = new Echoes({
    toCanvas: (at) => stage.toCanvas(at),
    lengthOnCanvas: (fraction) => stage.lengthOnCanvas(fraction),
  });

  // One canvas is made per stage.
  // svelte-ignore state_referenced_locally
  const hand = new Hand(
    studio,
    stage,
    () => panning,
    (stroke) => {
      echoes.push({ stroke, version: studio.version });
      drawEchoes();
    },
  );
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

  onMount(() => {
    const unfollow = stage.follow(holder);
    return () => {
      unfollow();
      pictures.close();
    };
  });

  $effect(() => {
    if (stage.canvas.width < 2) return;
    const wanted = {
      recipe: studio.recipe,
      version: studio.version,
      view: stage.view,
      whole: stage.whole,
      show: studio.shown,
      part: studio.masking.hintedPart,
      ink: room.settings.ink,
      said: studio.finder.said,
      cast: proving.shown?.cast ?? studio.castId,
      figure: proving.shown && { key: proving.shown.figure.key, when: proving.shown.when },
      draft: studio.moving,
    };
    untrack(() => {
      for (const canvas of [photoCanvas, echoCanvas]) fitCanvas(canvas, stage);
      pictures.want(wanted);
    });
  });

  $effect(() => {
    void stage.viewport;
    void studio.untouched;
    drawPhoto();
  });

  $effect(() => {
    void stage.viewport;
    untrack(drawEchoes);
  });

  $effect(() => {
    const { stroke } = hand;
    const context = echoCanvas?.getContext('2d');
    if (context) echo.grow(context, stroke);
  });

  function drawPhoto(): void {
    const context = photoCanvas?.getContext('2d');
    if (!context) return;
    const layers = studio.untouched
      ? [pictures.beforeWhole, pictures.before]
      : [pictures.nowWhole, pictures.now];
    drawLayers(context, layers, stage);
  }

  function drawEchoes(): void {
    const context = echoCanvas?.getContext('2d');
    const done = echoes.map((e) => e.stroke);
    if (context) echo.redraw(context, done, hand.stroke);
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<div
  bind:this={holder}
  class="relative h-full w-full touch-none overflow-hidden bg-surround outline-none"
  class:ringed={hand.byKeyboard}
  class:cursor-grab={panning || studio.tool === 'look'}
  class:cursor-grabbing={hand.dragging}
  class:cursor-move={studio.tool === 'turn' && !panning}
  class:cursor-ew-resize={studio.tool === 'touch' && !panning}
  class:cursor-none={hand.brushing}
  class:cursor-crosshair={hand.sampling || studio.tool === 'box' || isDrawing(studio.tool)}
  role="application"
  aria-label="The photo. Arrow keys move the pointer, Enter clicks."
  tabindex="0"
  data-painted={painted}
  data-version={studio.version}
  onpointerdown={(event) => hand.down(event)}
  onpointermove={(event) => hand.move(event)}
  onpointerup={() => hand.up()}
  onpointercancel={() => hand.up()}
  onpointerleave={() => hand.leave()}
  onwheel={(event) => hand.wheel(event)}
  onkeydown={(event) => hand.key(event)}
  onfocus={() => (hand.byKeyboard = !holder.matches(':active'))}
  onblur={() => {
    hand.pointer = null;
    hand.byKeyboard = false;
  }}
>
  <canvas bind:this={photoCanvas} class="absolute inset-0 h-full w-full"></canvas>
  <canvas bind:this={echoCanvas} class="absolute inset-0 h-full w-full opacity-85"></canvas>
  {#if !studio.untouched && !proving.shown}<CompareLayers {stage} />{/if}
  {#if !studio.untouched}<ShapeOverlay {stage} /><PhotoTags {stage} /><FindingOverlay
      {stage}
    />{/if}
  {#if studio.marked}<PlaceMark {stage} at={studio.marked.at} text={studio.marked.text} />{/if}
  {#if studio.scopes.area === 'box'}<BoxOverlay {stage} />{/if}
  {#if hand.pointer && hand.brushing}<BrushCursor {stage} at={hand.pointer} />{/if}
  {#if hand.pointer && hand.sampling && studio.probe.place}
    <Loupe {stage} at={hand.pointer} />
  {/if}
  {#if studio.tool === 'turn' && studio.remedy}
    <p class="absolute top-3 left-3 bg-ink px-2 py-1 text-inverse" aria-live="polite">
      {hand.turning
        ? descriptorOf(studio.remedy).told(studio.remedy)
        : descriptorOf(studio.remedy).dragHint}
    </p>
  {:else if studio.tool === 'touch'}
    <p class="absolute top-3 left-3 bg-ink px-2 py-1 text-inverse" aria-live="polite">
      {studio.touching.told}
    </p>
  {:else if isDrawing(studio.tool)}
    <p class="absolute top-3 left-3 bg-ink px-2 py-1 text-inverse" aria-live="polite">
      {DRAW_HINTS[studio.tool]}
    </p>
  {:else if TOOL_HINTS[studio.tool]}
    <p class="absolute top-3 left-3 bg-ink px-2 py-1 text-inverse" aria-live="polite">
      {TOOL_HINTS[studio.tool]}
    </p>
  {:else if studio.untouched}
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
