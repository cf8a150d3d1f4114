<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { call, reasonOf } from '../api/client';
  import { Newest } from '../api/newest';
  import type { Share, Shoot } from '../api/types';
  import { pointerRests } from '../controls/resting';
  import RunningWork from './RunningWork.svelte';

  /** With whom a shoot is shared, to look at or to work on. */
  let { shoot, open = $bindable() }: { shoot: Shoot; open: boolean } = $props();
  let shares = $state.raw<Share[]>([]);
  let name = $state('');
  let may = $state<Share['may']>('see');
  let reason = $state('');
  const path = $derived({ shoot_id: shoot.id });

  const newest = new Newest();

  async function listed(): Promise<Share[]> {
    const now = await call('get', '/api/shoots/{shoot_id}/shares', { path });
    await pointerRests();
    return now;
  }

  async function attempt(work: () => Promise<unknown>): Promise<void> {
    reason = '';
    try {
      await work();
      const now = await newest.answer(listed());
      if (now) shares = now;
    } catch (error) {
      reason = reasonOf(error);
    }
  }

  function share(person: string, may: Share['may']): Promise<void> {
    return attempt(async () => {
      await call('put', '/api/shoots/{shoot_id}/shares', { path, body: { person, may } });
      name = '';
    });
  }

  function end(one: Share): Promise<void> {
    const gone = { ...path, share_id: one.id };
    return attempt(() =>
      call('delete', '/api/shoots/{shoot_id}/shares/{share_id}', { path: gone }),
    );
  }

  $effect(() => {
    if (open) void attempt(async () => {});
  });
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="fixed top-[16%] left-1/2 z-50 flex max-h-[70%] w-[520px] -translate-x-1/2 flex-col border border-ink bg-raised p-5"
    >
      <Dialog.Title class="text-title font-semibold">Share {shoot.name}</Dialog.Title>
      <Dialog.Description class="mb-3 text-ink2">
        Whoever looks can try everything and saves nothing. Whoever works can do all but empty the
        bin, move photos away, and share it.
      </Dialog.Description>
      <form
        class="flex items-center gap-2"
        onsubmit={(event) => {
          event.preventDefault();
          void share(name, may);
        }}
      >
        <input
          class="field min-h-[28px] min-w-0 flex-1"
          aria-label="Name of an account"
          placeholder="Name of an account"
          maxlength="150"
          required
          bind:value={name}
        />
        <select class="field min-h-[28px]" aria-label="What they may do" bind:value={may}>
          <option value="see">to look at</option>
          <option value="work">to work on</option>
        </select>
        <button class="button strong tall">Share</button>
      </form>
      {#if reason}
        <p role="alert" class="notched mt-3 w-fit bg-attention py-1 pr-3 text-inverse">{reason}</p>
      {/if}
      <ul class="mt-3 min-h-0 flex-1 overflow-y-auto" aria-label="Shared with">
        {#each shares as one (one.id)}
          <li class="flex items-center gap-3 border-t border-line py-1.5">
            <span class="min-w-0 flex-1 truncate font-semibold">{one.person}</span>
            <select
              class="field"
              aria-label="What {one.person} may do"
              value={one.may}
              onchange={(event) =>
                void share(one.person, event.currentTarget.value as Share['may'])}
            >
              <option value="see">to look at</option>
              <option value="work">to work on</option>
            </select>
            <button class="button" onclick={() => void end(one)}>End</button>
          </li>
        {:else}
          <li class="border-t border-line py-2 text-ink2">Nobody else sees it.</li>
        {/each}
      </ul>
      <RunningWork {shoot} />
      <div class="mt-4 flex justify-end">
        <Dialog.Close class="button tall">Close</Dialog.Close>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
