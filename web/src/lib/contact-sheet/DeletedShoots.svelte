<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { call, reasonOf } from '../api/client';
  import type { RemovedShoot } from '../api/types';
  import { router } from '../router.svelte';
  import { day } from './holds';

  /** Shoots that were deleted, until they go for good. */
  let { open = $bindable() }: { open: boolean } = $props();
  let shoots = $state.raw<RemovedShoot[]>([]);
  let sure = $state<RemovedShoot | null>(null);
  let reason = $state('');

  $effect(() => {
    if (open) void attempt(async () => {});
  });

  async function attempt(work: () => Promise<unknown>): Promise<void> {
    reason = '';
    try {
      await work();
      shoots = await call('get', '/api/removed-shoots');
    } catch (error) {
      reason = reasonOf(error);
    }
  }

  function restore(one: RemovedShoot): Promise<void> {
    return attempt(async () => {
      const path = { shoot_id: one.id };
      await call('post', '/api/removed-shoots/{shoot_id}/restore', { path });
      open = false;
      router.go(`/shoots/${one.id}`);
    });
  }

  function forget(one: RemovedShoot): Promise<void> {
    sure = null;
    const path = { shoot_id: one.id };
    return attempt(() => call('delete', '/api/removed-shoots/{shoot_id}', { path }));
  }
</script>

<Dialog.Root bind:open onOpenChange={() => (sure = null)}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="fixed top-[12%] left-1/2 z-50 flex max-h-[76%] w-[640px] -translate-x-1/2 flex-col border border-ink bg-raised p-5"
    >
      <Dialog.Title class="text-title font-semibold">Deleted shoots</Dialog.Title>
      <Dialog.Description class="mb-3 text-ink2">
        Kept for 30 days with all photos and all work on them.
      </Dialog.Description>
      {#if reason}<p role="alert" class="mb-3 text-attention">{reason}</p>{/if}
      <ul class="min-h-0 flex-1 overflow-y-auto" aria-label="Deleted shoots">
        {#each shoots as one (one.id)}
          <li class="flex items-center gap-3 border-t border-line py-1.5">
            {#if sure === one}
              <span class="min-w-0 flex-1">
                Delete {one.name} with {one.photos}
                {one.photos === 1 ? 'photo' : 'photos'} for good?
              </span>
              <button class="button" onclick={() => (sure = null)}>Cancel</button>
              <button class="button strong" onclick={() => void forget(one)}>Delete for good</button
              >
            {:else}
              <span class="min-w-0 flex-1 truncate font-semibold">{one.name}</span>
              <span class="text-ink2">{one.photos} photos, until {day(one.gone)}</span>
              <button class="button" onclick={() => (sure = one)}>Delete…</button>
              <button class="button" onclick={() => void restore(one)}>Restore</button>
            {/if}
          </li>
        {:else}
          <li class="border-t border-line py-2 text-ink2">No deleted shoots.</li>
        {/each}
      </ul>
      <div class="mt-4 flex justify-end">
        <Dialog.Close class="button tall">Close</Dialog.Close>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
