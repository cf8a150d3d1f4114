<script lang="ts">
  import type { Show, Stroke, Vector } from '../api/types';
  import { link } from '../router.svelte';
  import type { Proposed } from './batch.svelte';
  import { echo } from './echo';

  /** One photo as it would be; on a series, played through with its mask, which can be painted on. */
  let { proposed }: { proposed: Proposed } = $props();
  const proposal = $derived(proposed.proposal!);
  const VIEWS: [Show, string][] = [
    ['before', 'before'],
    ['now', 'now'],
    ['hatch', 'mask'],
    ['matte', 'matte'],
  ];
  let width = $state(0);
  let height = $state(0);
  let hand = $state<'' | 'add' | 'take'>('');
  /** Of the pen, as a share of the long edge. */
  let size = $state(0.05);
  let drawing: HTMLCanvasElement | undefined = $state();

  const fit = $derived(Math.min((width - 32) / proposal.width, (height - 32) / proposal.height));
  const shown = $derived({
    width: Math.max(Math.round(proposal.width * fit), 1),
    height: Math.max(Math.round(proposal.height * fit), 1),
  });
  const edge = $derived(
    Math.min(Math.max(Math.ceil(Math.max(shown.width, shown.height) / 100) * 100, 200), 2400),
  );
  const src = $derived(
    proposal.proposed
      ? proposed.picture(proposal, proposed.show, edge)
      : `/api/photos/${proposal.photo}/thumbnail?revision=${proposal.revision}`,
  );
  const paints = $derived(
    proposed.follows && proposal.proposed && !proposal.taken && !proposed.following.running,
  );
  // A hand that cannot paint here is put down.
  $effect(() => {
    if (!paints) hand = '';
  });
  let seen = $state('');
  /** The last good picture stays until the next one is there. */
  $effect(() => {
    const wanted = src;
    const next = new Image();
    next.onload = () => {
      if (wanted === src) {
        seen = wanted;
        drawing?.getContext('2d')?.clearRect(0, 0, drawing.width, drawing.height);
      }
    };
    next.src = wanted;
  });

  function take(next: '' | 'add' | 'take'): void {
    hand = hand === next ? '' : next;
    proposed.play(false);
    if (hand && (proposed.show === 'before' || proposed.show === 'now')) proposed.show = 'hatch';
  }

  function at(event: PointerEvent): Vector {
    const box = drawing!.getBoundingClientRect();
    const scale = Math.max(shown.width, shown.height);
    return [(event.clientX - box.left) / scale, (event.clientY - box.top) / scale];
  }

  function pointerdown(event: PointerEvent): void {
    if (!hand || event.button !== 0 || !drawing) return;
    event.preventDefault();
    const erase = (hand === 'take') !== event.altKey;
    const points: Stroke['points'] = [];
    const draw = (moved: PointerEvent): void => {
      points.push([at(moved), 1]);
      echo(drawing!, points, size);
    };
    const up = (): void => {
      removeEventListener('pointermove', draw);
      removeEventListener('pointerup', up);
      void proposed.correct([
        { size, feather: 0.3, flow: 1, opacity: 1, edges: false, erase, points },
      ]);
    };
    draw(event);
    addEventListener('pointermove', draw);
    addEventListener('pointerup', up);
  }
</script>

<div class="flex min-w-0 flex-1 flex-col">
  <div
    class="relative flex min-h-0 flex-1 items-center justify-center bg-surround"
    bind:clientWidth={width}
    bind:clientHeight={height}
  >
    <div class="relative" style:width="{shown.width}px" style:height="{shown.height}px">
      <img
        class="block h-full w-full"
        src={seen || src}
        alt={proposal.title}
        draggable="false"
        data-shown={seen === src}
      />
      <canvas
        bind:this={drawing}
        width={shown.width}
        height={shown.height}
        class="absolute inset-0 touch-none {hand ? 'cursor-crosshair' : 'pointer-events-none'}"
        aria-label="The mask, to be painted on"
        onpointerdown={pointerdown}
      ></canvas>
    </div>
  </div>
  <div
    class="flex min-h-[52px] shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-t border-line px-4"
  >
    <div class="joined" role="group" aria-label="What is shown">
      {#each VIEWS as [show, word] (show)}
        <button
          class="button"
          aria-pressed={proposed.show === show}
          onclick={() => (proposed.show = show)}>{word}</button
        >
      {/each}
    </div>
    {#if proposal.casts.length > 1}
      <div class="joined" role="group" aria-label="Whose mask">
        {#each proposal.casts as cast (cast.id)}
          <button
            class="button"
            aria-pressed={cast.letter === proposed.cast?.letter}
            title={cast.name}
            onclick={() => (proposed.letter = cast.letter)}>{cast.letter}</button
          >
        {/each}
      </div>
    {/if}
    {#if proposed.follows}
      <button
        class="button"
        aria-pressed={proposed.playing}
        onclick={() => proposed.play(!proposed.playing)}
        >{proposed.playing ? 'Stop' : 'Play through'}</button
      >
    {/if}
    {#if paints}
      <div class="joined" role="group" aria-label="Correct the mask by hand">
        <button class="button" aria-pressed={hand === 'add'} onclick={() => take('add')}
          >Add to the mask</button
        >
        <button class="button" aria-pressed={hand === 'take'} onclick={() => take('take')}
          >Take away</button
        >
      </div>
      {#if hand}
        <label class="flex items-center gap-2 text-ink2">
          pen
          <input
            class="w-[90px] accent-[var(--ink)]"
            type="range"
            min="0.01"
            max="0.2"
            step="0.005"
            aria-label="Size of the pen"
            bind:value={size}
          />
        </label>
      {/if}
      {#if proposal.key}
        <button class="quiet underline" onclick={() => proposed.letGo()}
          >Forget the correction</button
        >
      {/if}
    {/if}
    <span class="flex-1"></span>
    <span>{proposed.at + 1} of {proposed.proposals.length}</span>
    <a class="quiet underline" href="/photos/{proposal.photo}" use:link>Open {proposal.title}</a>
  </div>
</div>
