<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { reasonOf } from '../api/client';
  import type { Stage } from '../canvas/stage.svelte';
  import { drawLayers, fitCanvas, Pictures } from '../canvas/pictures';
  import { room } from '../room/room.svelte';
  import { useStudio } from '../studio/studio.svelte';
  import type { Side } from './compare.svelte';

  /** One state of the photo, drawn where the stage has it. Hidden layers are kept ready. */
  interface Props {
    stage: Stage;
    side: Side;
    clip?: string;
    visible?: boolean;
  }
  let { stage, side, clip = 'none', visible = true }: Props = $props();
  const studio = useStudio();
  const QUIET = { places: [] };
  let canvas: HTMLCanvasElement;
  let ready = $state(-1);
  const pictures = new Pictures(
    studio.photo.id,
    draw,
    (error) => studio.complain('picture', reasonOf(error)),
    false,
  );
  const shown = $derived(studio.compare.resolve(side));

  onMount(() => () => pictures.close());

  $effect(() => {
    if (stage.canvas.width < 2) return;
    const { recipe, show, version } = shown;
    const { ink } = room.settings;
    const { view, whole } = stage;
    const wanted = { recipe, version, view, whole, show, said: QUIET, ink, draft: studio.moving };
    untrack(() => {
      fitCanvas(canvas, stage);
      pictures.want(wanted);
    });
  });

  $effect(() => {
    void stage.viewport;
    draw();
  });

  function draw(): void {
    const context = canvas?.getContext('2d');
    if (!context || !pictures.now) return;
    drawLayers(context, [pictures.nowWhole, pictures.now], stage);
    ready = pictures.now.version;
  }
</script>

<canvas
  bind:this={canvas}
  class="pointer-events-none absolute top-0 left-0 bg-surround"
  style:width="{stage.canvas.width / stage.dpr}px"
  style:height="{stage.canvas.height / stage.dpr}px"
  style:clip-path={clip}
  style:visibility={visible && ready >= 0 ? 'visible' : 'hidden'}
  data-testid="compare-{side}"
  data-ready={ready}
  data-wanted={shown.version}
></canvas>
