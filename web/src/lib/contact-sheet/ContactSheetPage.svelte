<script lang="ts">
  import { AlertDialog } from 'bits-ui';
  import { onMount } from 'svelte';
  import { ApiError, call, reasonOf } from '../api/client';
  import type { Dial, Photo, Shoot } from '../api/types';
  import FilePicker from '../controls/FilePicker.svelte';
  import PhotoCard from './PhotoCard.svelte';
  import SheetBar from './SheetBar.svelte';
  import { ShootLook } from './shoot-look.svelte';
  import UploadList from './UploadList.svelte';
  import { Uploads } from './uploads.svelte';

  let { shootId }: { shootId: number } = $props();
  let shoot = $state<Shoot | null>(null);
  let trouble = $state('');
  let dropping = $state(false);
  let leaving = $state<Photo | null>(null);
  let picker: FilePicker;

  // One page is made per shoot.
  // svelte-ignore state_referenced_locally
  const uploads = new Uploads(shootId, (photo) => shoot?.photos.push(photo));

  // svelte-ignore state_referenced_locally
  const shootLook = new ShootLook(shootId);

  onMount(() => {
    void load();
    // The work itself goes on.
    return () => shootLook.following.close();
  });

  /** By photo, the dials that are known without any computation. */
  let known = $state.raw<Map<number, Dial[]>>();

  async function load(): Promise<void> {
    try {
      shoot = await call('get', '/api/shoots/{shoot_id}', { path: { shoot_id: shootId } });
      document.title = `${shoot.name} · Nubilis`;
      const figures = await call('get', '/api/shoots/{shoot_id}/figures', {
        path: { shoot_id: shootId },
      });
      known = new Map(figures.map((f) => [f.photo, f.dials]));
      const path = { shoot_id: shootId };
      await shootLook.resume(await call('get', '/api/shoots/{shoot_id}/jobs', { path }));
    } catch (error) {
      const gone = error instanceof ApiError && error.status === 404;
      trouble = gone ? 'There is no such shoot' : reasonOf(error);
    }
  }

  function drop(event: DragEvent): void {
    event.preventDefault();
    dropping = false;
    uploads.add(event.dataTransfer?.files ?? []);
  }

  async function remove(photo: Photo): Promise<void> {
    try {
      await call('delete', '/api/shoots/{shoot_id}/photos/{photo_id}', {
        path: { shoot_id: shootId, photo_id: photo.id },
      });
      if (shoot) shoot.photos = shoot.photos.filter((p) => p.id !== photo.id);
    } catch (error) {
      trouble = reasonOf(error);
    }
    leaving = null;
  }
</script>

<svelte:window
  ondragover={(event) => {
    event.preventDefault();
    dropping = true;
  }}
  ondragleave={(event) => (dropping = event.relatedTarget !== null)}
  ondrop={drop}
  onbeforeunload={(event) => uploads.unfinished && event.preventDefault()}
/>

<div class="flex h-full flex-col">
  <SheetBar {shoot} look={shootLook} onadd={() => picker.open()} />
  <main class="min-h-0 flex-1 overflow-y-auto p-5">
    <h1 class="sr-only">{shoot?.name ?? 'Contact sheet'}</h1>
    {#each [trouble, shootLook.following.reason].filter(Boolean) as text (text)}
      <p role="alert" class="notched mb-4 w-fit bg-attention py-1 pr-3 text-inverse">{text}</p>
    {/each}
    {#if shoot?.photos.length === 0}
      <div class="flex h-full flex-col items-center justify-center gap-4">
        <p class="text-lead">No photos yet. Drop some here: JPEG, PNG, TIFF or WebP.</p>
        <button class="button strong tall" onclick={() => picker.open()}>Add photos</button>
      </div>
    {:else if shoot}
      <div class="grid grid-cols-[repeat(auto-fill,minmax(270px,1fr))] gap-4">
        {#each shoot.photos as photo (photo.id)}
          <PhotoCard
            {photo}
            known={known && (known.get(photo.id) ?? null)}
            looked={shootLook.looked.get(photo.id) ?? 0}
            onremove={() => (leaving = photo)}
          />
        {/each}
      </div>
    {/if}
  </main>
</div>

<FilePicker
  bind:this={picker}
  accept=".jpg,.jpeg,.png,.tif,.tiff,.webp"
  label="Photos to add"
  multiple
  onpick={(files) => uploads.add(files)}
/>
{#if dropping}
  <div
    class="pointer-events-none fixed inset-3 z-40 flex items-center justify-center border-2 border-dashed border-ink bg-panel/80 text-title"
  >
    Drop to add to {shoot?.name ?? 'this shoot'}
  </div>
{/if}
{#if uploads.list.length}<UploadList {uploads} />{/if}

<AlertDialog.Root open={leaving !== null} onOpenChange={(open) => !open && (leaving = null)}>
  <AlertDialog.Portal>
    <AlertDialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <AlertDialog.Content
      class="fixed top-1/3 left-1/2 z-50 w-[380px] -translate-x-1/2 border border-ink bg-raised p-5"
    >
      <AlertDialog.Title class="text-lead font-semibold">
        Remove {leaving?.title} from the shoot?
      </AlertDialog.Title>
      <AlertDialog.Description class="mt-1 text-ink2">
        Its casts go with it. Files that you delivered stay with you.
      </AlertDialog.Description>
      <div class="mt-5 flex justify-end gap-2">
        <AlertDialog.Cancel class="button tall">Keep it</AlertDialog.Cancel>
        <AlertDialog.Action class="button strong tall" onclick={() => leaving && remove(leaving)}
          >Remove</AlertDialog.Action
        >
      </div>
    </AlertDialog.Content>
  </AlertDialog.Portal>
</AlertDialog.Root>
