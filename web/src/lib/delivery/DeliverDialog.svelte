<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { onMount, untrack } from 'svelte';
  import { call, download, reasonOf } from '../api/client';
  import Progress from '../controls/Progress.svelte';
  import { Following, worthTelling } from '../jobs/following.svelte';
  import type { Delivery, FileFormat, FileWanted, Job } from '../api/types';
  import WantedControls from './WantedControls.svelte';
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
  let wanted = $state.raw<FileWanted>({ file_format: format, space, long_edge: null });
  const touched = $derived(wanted.space !== 'keep' || wanted.long_edge !== null);
  const following = new Following((job) => void finish(job));
  const job = $derived(following.job);
  let made = $state<Delivery | null>(null);
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
      const body = { revision: studio.saver.revision, ...wanted };
      const path = { photo_id: photo.id };
      await following.follow(call('post', '/api/photos/{photo_id}/deliveries', { path, body }));
    } catch (error) {
      trouble = reasonOf(error);
    }
  }

  async function finish({ delivery }: Job): Promise<void> {
    if (!delivery) return;
    try {
      const path = { delivery_id: delivery };
      made = await call('get', '/api/deliveries/{delivery_id}/about', { path });
      download(`/api/deliveries/${delivery}`, made.name);
    } catch (error) {
      trouble = reasonOf(error);
    }
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="fixed top-[8%] left-1/2 z-50 w-[440px] -translate-x-1/2 border border-ink bg-raised p-5"
    >
      <Dialog.Title class="text-title font-semibold">Deliver</Dialog.Title>
      <Dialog.Description class="mb-3 text-ink2">
        {photo.width} × {photo.height}, {photo.profile}; its metadata comes along.
      </Dialog.Description>
      <WantedControls
        {wanted}
        onchange={(next) => {
          wanted = next;
          made = null;
        }}
      />
      {#if touched}
        <p class="mt-2 px-2 text-ink2">
          In another {wanted.space !== 'keep' ? 'profile' : 'size'} every pixel is written anew: what
          no mask reaches looks the same, but is not the same to the bit.
        </p>
      {/if}
      {#if made}
        <div class="mt-4 border-t border-line pt-3" role="status">
          <p>
            <a class="font-semibold underline" href="/api/deliveries/{made.id}" download={made.name}
              >{made.name}</a
            >, {(made.size_bytes / 1e6).toFixed(1)} MB
          </p>
          {#if made.unchanged !== null}
            <p class="text-ink2">
              {(made.unchanged * 100).toFixed(1)} % of its pixels are exactly the original's.
            </p>
          {/if}
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
            {made ? 'Make again' : 'Make the file'}
          </button>
        {/if}
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
