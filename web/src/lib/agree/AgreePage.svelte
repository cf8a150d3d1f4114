<script lang="ts">
  import { onMount } from 'svelte';
  import type { Photo, Vector } from '../api/types';
  import Progress from '../controls/Progress.svelte';
  import { swatch } from '../instruments/swatch';
  import { link } from '../router.svelte';
  import { Agreeing, ORDERS } from './agreeing.svelte';
  import PickPlace from './PickPlace.svelte';
  import SetPlot from './SetPlot.svelte';
  import StandingCard from './StandingCard.svelte';

  let { shootId }: { shootId: number } = $props();
  // One page is made per shoot.
  // svelte-ignore state_referenced_locally
  const agreeing = new Agreeing(shootId);
  const { following } = agreeing;
  const job = $derived(following.job);
  let picking = $state<{ photo: Photo; what: 'colour' | 'place' } | null>(null);
  let hovered = $state<number | null>(null);

  onMount(() => {
    void agreeing.load();
    return () => following.close();
  });

  function picked(photo: Photo, at: Vector): void {
    const what = picking?.what;
    picking = null;
    if (what === 'place') void agreeing.say(photo, at);
    else void agreeing.choosePlace(photo, at);
  }

  const found = $derived([...agreeing.standings.values()].filter((s) => s.at).length);

  async function levelAll(): Promise<void> {
    for (const photo of agreeing.outliers) await agreeing.level(photo);
  }
</script>

<svelte:head><title>Agree on a colour · Nubilis</title></svelte:head>

<div class="flex h-full flex-col">
  <header class="flex h-12 shrink-0 items-center gap-3 border-b border-line px-4">
    <a href="/" use:link class="text-[16px] font-bold">Nubilis</a>
    {#if agreeing.shoot}
      <a href="/shoots/{shootId}" use:link class="quiet max-w-[300px] text-lead"
        ><span class="truncate">{agreeing.shoot.name}</span></a
      >
    {/if}
    <h1 class="text-lead font-semibold">Agree on a colour</h1>
    <span class="text-ink2"
      >{agreeing.photos.length === 1 ? '1 photo' : `${agreeing.photos.length} photos`}</span
    >
    <span class="flex-1"></span>
    {#if job && following.running}
      <Progress
        label="Looking for the colour"
        text={job.cancelled ? 'Stopping' : 'Looking for it'}
        done={job.share}
        total={1}
        oncancel={() => following.cancel()}
      />
    {:else if agreeing.outliers.length > 1}
      <button class="button strong tall" disabled={agreeing.busy > 0} onclick={levelAll}
        >Level all {agreeing.outliers.length}</button
      >
    {/if}
  </header>
  {#each [agreeing.trouble, following.reason].filter(Boolean) as text (text)}
    <p role="alert" class="notched m-3 w-fit bg-attention py-1 pr-3 text-inverse">{text}</p>
  {/each}
  <main class="flex min-h-0 flex-1">
    <section
      class="w-[232px] shrink-0 overflow-y-auto border-r border-line p-3"
      aria-label="Which colour"
    >
      {#if agreeing.agreement}
        <div class="mb-4 flex items-center gap-3">
          <span class="h-12 w-12 shrink-0" style:background={swatch(agreeing.agreement)}></span>
          <span class="min-w-0">
            <span class="block truncate font-semibold">{agreeing.name}</span>
            <span class="text-ink2">found in {found} of {agreeing.photos.length}</span>
          </span>
        </div>
      {/if}
      <h2 class="mb-1 font-semibold">Click it in a photo</h2>
      <ul class="mb-4 grid grid-cols-2 gap-1.5">
        {#each agreeing.photos.slice(0, 60) as photo (photo.id)}
          <li>
            <button
              class="block w-full"
              aria-label="Pick in {photo.title}"
              title={photo.title}
              onclick={() => (picking = { photo, what: 'colour' })}
            >
              <img
                class="aspect-[3/2] w-full bg-surround object-contain"
                src="/api/photos/{photo.id}/thumbnail?revision={agreeing.revisions.get(photo.id) ??
                  0}"
                alt=""
                loading="lazy"
              />
            </button>
          </li>
        {/each}
      </ul>
      <h2 class="mb-1 font-semibold">Or take it from the library</h2>
      <ul>
        {#each agreeing.library as entry (`${entry.id} ${entry.name}`)}
          <li>
            <button
              class="flex w-full items-center gap-2 py-1 text-left hover:bg-field"
              onclick={() => agreeing.chooseEntry(entry)}
            >
              <span class="h-5 w-7 shrink-0" style:background={swatch(entry.colour)}></span>
              <span class="truncate">{entry.name}</span>
            </button>
          </li>
        {/each}
      </ul>
    </section>
    <section class="flex min-w-0 flex-1 flex-col" aria-label="The set">
      {#if agreeing.agreement}
        <SetPlot {agreeing} bind:hovered />
        <div class="flex items-center gap-3 border-b border-line px-4 py-1.5">
          <span>
            Mean distance from their mean
            <strong>{agreeing.agreement.spread_before.toFixed(1)}</strong> untreated,
            <strong>{agreeing.agreement.spread_now.toFixed(1)}</strong> when last looked for
          </span>
          <span class="flex-1"></span>
          <select class="field" aria-label="Order" bind:value={agreeing.order}>
            {#each ORDERS as [order, word] (order)}<option value={order}>{word}</option>{/each}
          </select>
        </div>
        <div
          class="grid min-h-0 flex-1 auto-rows-max grid-cols-[repeat(auto-fill,minmax(230px,1fr))] gap-3 overflow-y-auto bg-sheet p-3"
        >
          {#each agreeing.listed as photo (photo.id)}
            <StandingCard
              {agreeing}
              {photo}
              lit={hovered === photo.id}
              onpoint={() => (picking = { photo, what: 'place' })}
            />
          {/each}
        </div>
      {:else}
        <p class="m-auto max-w-[420px] text-lead">
          Choose what should be one colour everywhere: a skin, a cloth, a neutral. Click it in a
          photo, or take it from the library.
        </p>
      {/if}
    </section>
  </main>
</div>

{#if picking}
  <PickPlace
    photo={picking.photo}
    revision={agreeing.revisions.get(picking.photo.id) ?? 0}
    title={picking.what === 'place'
      ? `Where is ${agreeing.name} in ${picking.photo.title}?`
      : `Click the colour in ${picking.photo.title}`}
    onpick={(at) => picking && picked(picking.photo, at)}
    onclose={() => (picking = null)}
  />
{/if}
