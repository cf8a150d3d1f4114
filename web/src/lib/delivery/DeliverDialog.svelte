<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { onMount, untrack } from 'svelte';
  import { call, download, reasonOf } from '../api/client';
  import Progress from '../controls/Progress.svelte';
  import { Following, worthTelling } from '../jobs/following.svelte';
  import type { Delivery, FileFormat, Job, Order } from '../api/types';
  import { formatFirst } from './focus';
  import { aNewOrder, hasMore, rewrites } from './order';
  import OrderControls from './OrderControls.svelte';
  import { useStudio } from '../studio/studio.svelte';

  let { open = $bindable() }: { open: boolean } = $props();
  const studio = useStudio();
  const { photo } = studio;

  const closest =
    photo.file_format === 'JPEG' ? 'jpeg' : photo.file_format === 'TIFF' ? 'tiff' : 'png';
  const format: FileFormat =
    closest !== 'jpeg' && photo.bits === 16 ? (`${closest}16` as FileFormat) : closest;
  // A raw file was developed into a wide space, which few outside expect.
  const space = photo.file_format === 'RAW' ? 'srgb' : 'keep';
  let order = $state.raw<Order>({ ...aNewOrder(format), space });
  const following = new Following((job) => void finish(job));
  const job = $derived(following.job);
  let made = $state<Delivery | null>(null);
  /** Where all of it can be had, when it is more than one file. */
  let all = $state('');
  let trouble = $state('');
  const reason = $derived(trouble || following.reason);
  onMount(() => () => following.close());

  /** What was under way, or left off, when the dialog was last seen. */
  async function resume(): Promise<void> {
    if (following.running) return;
    const path = { photo_id: photo.id };
    const jobs = await call('get', '/api/photos/{photo_id}/jobs', { path }).catch(() => []);
    const left = worthTelling(jobs, 'deliver');
    if (left) await following.follow(Promise.resolve(left));
  }

  $effect(() => {
    if (open) untrack(() => void resume());
  });

  async function make(): Promise<void> {
    trouble = '';
    made = null;
    try {
      await studio.saver.settled();
      const body = { revision: studio.saver.revision, order };
      const path = { photo_id: photo.id };
      await following.follow(call('post', '/api/photos/{photo_id}/deliveries', { path, body }));
    } catch (error) {
      trouble = reasonOf(error);
    }
  }

  async function finish({ id, delivery, files, folder }: Job): Promise<void> {
    if (!delivery) return;
    try {
      const path = { delivery_id: delivery };
      made = await call('get', '/api/deliveries/{delivery_id}/about', { path });
      if (folder) return;
      all = files > 1 ? `/api/jobs/${id}/files.zip` : '';
      download(all || `/api/deliveries/${delivery}`, all ? 'delivered.zip' : made.name);
    } catch (error) {
      trouble = reasonOf(error);
    }
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      onOpenAutoFocus={formatFirst}
      class="fixed top-[6%] left-1/2 z-50 max-h-[90%] w-[680px] -translate-x-1/2 overflow-y-auto border border-ink bg-raised p-5"
    >
      <Dialog.Title class="text-title font-semibold">Deliver</Dialog.Title>
      <Dialog.Description class="mb-3 text-ink2">
        {photo.width} × {photo.height}, {photo.profile}.
      </Dialog.Description>
      <OrderControls
        {order}
        photoId={photo.id}
        onchange={(next) => {
          order = next;
          made = null;
        }}
      />
      {#if rewrites(order)}
        <p class="mt-2 px-2 text-ink2">
          In another {order.space !== 'keep' ? 'profile' : 'size'} every pixel is written anew: what no
          mask reaches looks the same, but is not the same to the bit.
        </p>
      {/if}
      {#if made}
        <div class="mt-4 border-t border-line pt-3" role="status">
          <p>
            {#if job?.folder}
              <span class="font-semibold">{made.name}</span> in {job.folder}
            {:else}
              <a
                class="font-semibold underline"
                href={all || `/api/deliveries/${made.id}`}
                download={all ? 'delivered.zip' : made.name}>{made.name}</a
              >
            {/if}{#if job && job.files > 1}, with {job.files - 1} beside it{/if},
            {(made.size_bytes / 1e6).toFixed(1)} MB
          </p>
          {#if made.unchanged !== null}
            <p class="text-ink2">
              {(made.unchanged * 100).toFixed(1)} % of its pixels are exactly the original's.
            </p>
          {/if}
          {#each made.notes as note (note)}
            <p class="text-ink2">{note}</p>
          {/each}
        </div>
      {/if}
      {#if reason}
        <p role="alert" class="notched mt-4 w-fit bg-attention py-1 pr-3 text-inverse">{reason}</p>
      {/if}
      <div class="mt-5 flex justify-end gap-2">
        <Dialog.Close class="button tall">Close</Dialog.Close>
        {#if job && following.running}
          <Progress
            label="Making the file"
            text={job.cancelled
              ? 'Stopping'
              : job.state === 'waiting'
                ? 'Waiting its turn'
                : 'Making it'}
            done={job.share}
            total={1}
            oncancel={() => following.cancel()}
          />
        {:else}
          <button class="button strong tall min-w-[110px]" onclick={make}>
            {made ? 'Make again' : hasMore(order) ? 'Make the files' : 'Make the file'}
          </button>
        {/if}
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
