<script lang="ts">
  import type { PhotoWithRecipe } from '../api/types';
  import BesidePanel from '../beside/BesidePanel.svelte';
  import CanvasView from '../canvas/CanvasView.svelte';
  import { Stage } from '../canvas/stage.svelte';
  import ZoomBar from '../canvas/ZoomBar.svelte';
  import ComparePane from '../compare/ComparePane.svelte';
  import CastRail from '../casts/CastRail.svelte';
  import FoldedRail from '../casts/FoldedRail.svelte';
  import DeliverDialog from '../delivery/DeliverDialog.svelte';
  import { keyOf } from '../help/commands';
  import KeysSheet from '../help/KeysSheet.svelte';
  import Instruments from '../instruments/Instruments.svelte';
  import AllFigures from '../proof/AllFigures.svelte';
  import FigureLegend from '../proof/FigureLegend.svelte';
  import { room } from '../room/room.svelte';
  import Notices from './Notices.svelte';
  import QuestionView from '../finder/QuestionView.svelte';
  import { elsewhere, runShortcut, spaceIsTaken, typing } from './shortcuts';
  import { provideStudio, Studio } from './studio.svelte';
  import BenchSheet from './BenchSheet.svelte';
  import TopBar from './TopBar.svelte';
  import WorkBench from './WorkBench.svelte';

  let { opened }: { opened: PhotoWithRecipe } = $props();
  // One screen is made per opened photo.
  // svelte-ignore state_referenced_locally
  const studio = provideStudio(new Studio(opened));
  const stage = new Stage(studio.photo);
  const panes = $derived(studio.besideOpen ? [] : studio.compare.panes);
  const { bench } = studio;
  let panning = $state(false);
  const columns = $derived(
    `${bench.railFolded ? 64 : 232}px minmax(0, 1fr) ${studio.strip ? 'minmax(0, 372px) ' : ''}208px`,
  );
  let delivering = $state(false);
  let helping = $state(false);

  // The station of a tool comes into use with it.
  $effect(() => bench.follow(studio.tool));

  function keyDown(event: KeyboardEvent): void {
    if (delivering || helping || studio.asking.open || elsewhere(event)) return;
    if (event.key === 'Control') studio.masking.peeking = true;
    if (event.key === ' ' && !spaceIsTaken(event)) {
      panning = true;
      event.preventDefault();
    } else if (room.settings.letters && event.key === keyOf('help') && !typing(event)) {
      helping = true;
    } else if (runShortcut(event, studio, stage, room.settings.letters)) {
      event.preventDefault();
    }
  }

  function keyUp(event: KeyboardEvent): void {
    if (event.key === ' ' && panning) {
      // Or the tool that was clicked would be pressed again.
      event.preventDefault();
      panning = false;
    }
    if (event.key === 'Control') studio.masking.peeking = false;
    if (event.key.toLowerCase() === keyOf('untouched')) studio.untouched = false;
    if (event.key.toLowerCase() === keyOf('pick-tone')) studio.washing.picking = false;
  }
</script>

<svelte:window
  onkeydown={keyDown}
  onkeyup={keyUp}
  onblur={() => {
    panning = studio.masking.peeking = false;
    studio.untouched = studio.washing.picking = false;
  }}
/>

<div
  class="grid h-full overflow-hidden"
  style:grid-template-rows={bench.bare
    ? 'minmax(0, 1fr)'
    : `48px minmax(0, 1fr) ${studio.strip ? 44 : bench.height}px`}
>
  {#if !bench.bare}
    <TopBar ondeliver={() => (delivering = true)} onhelp={() => (helping = true)} />
  {/if}
  {#if studio.asking.open}
    <div class="row-span-2 min-h-0"><QuestionView /></div>
  {:else}
    <div class="grid min-h-0" style:grid-template-columns={bench.bare ? 'minmax(0, 1fr)' : columns}>
      {#if !bench.bare}{#if bench.railFolded}<FoldedRail />{:else}<CastRail />{/if}{/if}
      <div
        class="grid min-h-0 min-w-0"
        class:beside={studio.besideOpen}
        class:halves={panes.length === 1}
        class:thirds={panes.length === 2}
        class:quarters={panes.length === 3}
      >
        {#each panes as side, i (i)}<ComparePane {stage} {side} />{/each}
        <main class="relative min-h-0 min-w-0">
          <CanvasView {stage} {panning} />
          {#if studio.proving.shown}<FigureLegend shown={studio.proving.shown} />{/if}
          {#if !bench.bare}<ZoomBar {stage} />{/if}
          <Notices />
        </main>
        {#if studio.besideOpen}<BesidePanel />{/if}
      </div>
      {#if !bench.bare}
        {#if studio.strip}<BenchSheet />{/if}
        {#if studio.proving.open}<AllFigures />{:else}<Instruments />{/if}
      {/if}
    </div>
    {#if !bench.bare}<WorkBench />{/if}
  {/if}
</div>
<DeliverDialog bind:open={delivering} />
<KeysSheet bind:open={helping} />

<style>
  .halves {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
  .thirds {
    grid-template-columns: repeat(3, minmax(0, 1fr));
    gap: 2px;
  }
  .quarters {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    grid-template-rows: minmax(0, 1fr) minmax(0, 1fr);
    gap: 2px;
  }
  .beside {
    grid-template-columns: minmax(0, 1fr) minmax(0, 0.72fr);
  }
</style>
