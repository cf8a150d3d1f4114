<script lang="ts">
  import { AlertDialog } from 'bits-ui';
  import { onMount } from 'svelte';
  import { call } from '../api/client';
  import FilePicker from '../controls/FilePicker.svelte';
  import ChosenBar from './ChosenBar.svelte';
  import { ChosenWork } from './chosen-work.svelte';
  import { Sheet } from './sheet.svelte';
  import SheetBar from './SheetBar.svelte';
  import SheetRows from './SheetRows.svelte';
  import SheetTabs from './SheetTabs.svelte';
  import { ShootLook } from './shoot-look.svelte';
  import { room } from '../room/room.svelte';
  import UploadList from './UploadList.svelte';
  import { Uploads } from './uploads.svelte';

  let { shootId }: { shootId: number } = $props();
  let dropping = $state(false);
  let leaving = $state<number[]>([]);
  let picker: FilePicker;

  // One page is made per shoot.
  // svelte-ignore state_referenced_locally
  const sheet = new Sheet(shootId);
  // svelte-ignore state_referenced_locally
  const uploads = Uploads.of(shootId, {
    added: (photo) => sheet.add(photo),
    refused: () => void sheet.loadLeftOut().catch(() => {}),
  });
  // svelte-ignore state_referenced_locally
  const look = new ShootLook(shootId, (photo) => void sheet.refresh(photo).catch(() => {}));
  const work = new ChosenWork(sheet);
  const { selection } = sheet;

  onMount(() => {
    void begin();
    return () => {
      // The work itself goes on.
      sheet.close();
      look.following.close();
      work.following.close();
    };
  });

  async function begin(): Promise<void> {
    await sheet.load();
    if (!sheet.shoot) return;
    document.title = `${sheet.shoot.name} · Nubilis`;
    const path = { shoot_id: shootId };
    const jobs = await call('get', '/api/shoots/{shoot_id}/jobs', { path }).catch(() => []);
    await look.resume(jobs);
    await work.resume(jobs);
  }

  function drop(event: DragEvent): void {
    event.preventDefault();
    dropping = false;
    if (works) uploads.add(event.dataTransfer?.files ?? []);
  }

  async function remove(): Promise<void> {
    await sheet.remove(leaving);
    leaving = [];
  }

  function keydown(event: KeyboardEvent): void {
    const typing = (event.target as HTMLElement).closest('input, select, [role="dialog"]');
    if (typing || leaving.length) return;
    if (event.key === 'Escape') selection.none();
    else if (event.key === 'a' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      selection.all();
    }
  }

  const works = $derived(sheet.shoot !== null && sheet.shoot.may !== 'see');
  const many = $derived(leaving.length > 1);
  const leavingTitle = $derived(sheet.shoot?.photos.find((p) => p.id === leaving[0])?.title);
</script>

<svelte:window
  onkeydown={keydown}
  ondragover={(event) => {
    event.preventDefault();
    dropping = works;
  }}
  ondragleave={(event) => (dropping = event.relatedTarget !== null)}
  ondrop={drop}
/>

<div class="flex h-full flex-col">
  <SheetBar shoot={sheet.shoot} {look} onadd={() => picker.open()} />
  <main class="flex min-h-0 flex-1 flex-col">
    <h1 class="sr-only">{sheet.shoot?.name ?? 'Contact sheet'}</h1>
    {#each [sheet.trouble, look.following.reason, work.reason].filter(Boolean) as text (text)}
      <p role="alert" class="notched m-3 w-fit bg-attention py-1 pr-3 text-inverse">{text}</p>
    {/each}
    {#if sheet.shoot?.photos.length === 0 && !works}
      <p class="m-auto text-lead">There are no photos in this shoot yet.</p>
    {:else if sheet.shoot?.photos.length === 0 && !sheet.bin.length}
      <div class="flex h-full flex-col items-center justify-center gap-4">
        <p class="text-lead">
          No photos yet. Drop some here: JPEG, PNG, TIFF, WebP, AVIF, HEIF, JPEG XL, EXR or raw.
        </p>
        <button class="button strong tall" onclick={() => picker.open()}>Add photos</button>
      </div>
    {:else if sheet.shoot}
      <SheetTabs
        {sheet}
        bind:size={() => room.settings.sheetSize, (sheetSize) => room.set({ sheetSize })}
      />
      {#if sheet.shown.length}
        <SheetRows
          {sheet}
          size={room.settings.sheetSize}
          onremove={() => works && (leaving = selection.list)}
        />
      {:else}
        <p class="flex-1 bg-sheet p-6 text-lead text-on-sheet">
          {sheet.shoot.photos.length
            ? 'No photo is like that.'
            : 'No photos any more. Those in the bin can be put back.'}
        </p>
      {/if}
      {#if selection.count && works}
        <ChosenBar {sheet} {look} {work} onremove={() => (leaving = selection.list)} />
      {/if}
    {/if}
  </main>
</div>

<FilePicker
  bind:this={picker}
  accept=".jpg,.jpeg,.png,.tif,.tiff,.webp,.avif,.jxl,.heic,.heif,.exr,.dng,.cr2,.cr3,.nef,.arw,.raf,.orf,.rw2,.pef"
  label="Photos to add"
  multiple
  onpick={(files) => uploads.add(files)}
/>
{#if dropping}
  <div
    class="pointer-events-none fixed inset-3 z-40 flex items-center justify-center border-2 border-dashed border-ink bg-panel/80 text-title"
  >
    Drop to add to {sheet.shoot?.name ?? 'this shoot'}
  </div>
{/if}
{#if uploads.list.length}<UploadList {uploads} />{/if}

<AlertDialog.Root open={leaving.length > 0} onOpenChange={(open) => !open && (leaving = [])}>
  <AlertDialog.Portal>
    <AlertDialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <AlertDialog.Content
      class="fixed top-1/3 left-1/2 z-50 w-[380px] -translate-x-1/2 border border-ink bg-raised p-5"
    >
      <AlertDialog.Title class="text-lead font-semibold">
        Remove {many ? `${leaving.length} photos` : leavingTitle} from the shoot?
      </AlertDialog.Title>
      <AlertDialog.Description class="mt-1 text-ink2">
        {many ? 'They are' : 'It is'} kept in the bin for thirty days, with all that was done.
      </AlertDialog.Description>
      <div class="mt-5 flex justify-end gap-2">
        <AlertDialog.Cancel class="button tall">Keep {many ? 'them' : 'it'}</AlertDialog.Cancel>
        <AlertDialog.Action class="button strong tall" onclick={remove}>Remove</AlertDialog.Action>
      </div>
    </AlertDialog.Content>
  </AlertDialog.Portal>
</AlertDialog.Root>
