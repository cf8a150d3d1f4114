<script lang="ts">
  import { onMount } from 'svelte';
  import RoomMenu from '../room/RoomMenu.svelte';
  import { link } from '../router.svelte';
  import Arrivals from './Arrivals.svelte';
  import CameraBody from './CameraBody.svelte';
  import { Tether } from './tether.svelte';
  import WatchSettings from './WatchSettings.svelte';

  let { shootId }: { shootId: number } = $props();
  // One page is made per shoot.
  // svelte-ignore state_referenced_locally
  const tether = new Tether(shootId);
  const { last } = $derived(tether);

  onMount(() => {
    void tether.load();
    return () => tether.close();
  });
  $effect(() => {
    if (tether.shoot) document.title = `Camera, ${tether.shoot.name} · Nubilis`;
  });
</script>

<div class="flex h-full flex-col">
  <header class="flex h-12 shrink-0 items-center gap-4 border-b border-line px-4">
    <a href="/" use:link class="text-[16px] font-bold">Nubilis</a>
    <a href="/shoots/{shootId}" use:link class="quiet min-w-0 truncate text-lead"
      >{tether.shoot?.name ?? ''}</a
    >
    <h1 class="text-lead">Camera and folder</h1>
    <span class="flex-1"></span>
    <RoomMenu />
    <a href="/shoots/{shootId}" use:link class="button tall">To the contact sheet</a>
  </header>
  {#if tether.trouble}
    <p role="alert" class="notched m-3 w-fit bg-attention py-1 pr-3 text-inverse">
      {tether.trouble}
    </p>
  {/if}
  {#if tether.watch && tether.shoot}
    <main class="grid min-h-0 flex-1 grid-cols-[320px_1fr]">
      <div class="flex min-h-0 flex-col border-r border-line">
        <WatchSettings {tether} />
        <CameraBody {tether} />
        <Arrivals arrivals={tether.watch.arrivals} />
      </div>
      <section class="flex min-h-0 flex-col bg-sheet p-6 text-on-sheet" aria-label="What came last">
        {#if last}
          {@const mark = `revision=${last.revision}${last.preview ? '&preview' : ''}`}
          <a
            href="/photos/{last.id}"
            use:link
            class="flex min-h-0 flex-1 items-center justify-center"
            aria-label="Work on {last.title}"
          >
            <img
              class="max-h-full max-w-full"
              src={last.preview
                ? `/api/photos/${last.id}/thumbnail?${mark}`
                : `/api/photos/${last.id}/whole?${mark}`}
              alt={last.title}
            />
          </a>
          <p class="pt-3">
            <span class="font-semibold">{last.title}</span>
            {last.width} × {last.height}{last.preview ? ', being developed' : ''}
          </p>
          {#each last.notes as note (note)}<p>{note}</p>{/each}
        {:else}
          <p class="m-auto max-w-[460px] text-center text-lead">
            Nothing has arrived yet. Point your camera's transfer at the folder, or press the
            simulated camera's button.
          </p>
        {/if}
      </section>
    </main>
  {/if}
</div>
