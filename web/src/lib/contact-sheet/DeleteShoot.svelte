<script lang="ts">
  import { AlertDialog } from 'bits-ui';
  import { call, reasonOf } from '../api/client';
  import type { Holds, Shoot } from '../api/types';
  import { router } from '../router.svelte';
  import { inWords } from './holds';

  /** Says what a shoot holds before it is deleted. */
  let { shoot, open = $bindable() }: { shoot: Shoot; open: boolean } = $props();
  let holds = $state.raw<Holds | null>(null);
  let reason = $state('');
  const path = $derived({ shoot_id: shoot.id });

  $effect(() => {
    if (open) void load();
  });

  async function load(): Promise<void> {
    reason = '';
    try {
      holds = await call('get', '/api/shoots/{shoot_id}/holds', { path });
    } catch (error) {
      reason = reasonOf(error);
    }
  }

  async function remove(): Promise<void> {
    try {
      await call('delete', '/api/shoots/{shoot_id}', { path });
      open = false;
      router.go('/');
    } catch (error) {
      reason = reasonOf(error);
    }
  }
</script>

<AlertDialog.Root bind:open>
  <AlertDialog.Portal>
    <AlertDialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <AlertDialog.Content
      class="fixed top-[20%] left-1/2 z-50 w-[460px] -translate-x-1/2 border border-ink bg-raised p-5"
    >
      <AlertDialog.Title class="text-title font-semibold">Delete {shoot.name}?</AlertDialog.Title>
      <AlertDialog.Description class="my-3">
        {holds ? inWords(holds) : ''} You can restore it within 30 days, under Deleted shoots.
      </AlertDialog.Description>
      {#if reason}<p role="alert" class="mb-3 text-attention">{reason}</p>{/if}
      <div class="flex justify-end gap-2">
        <AlertDialog.Cancel class="button tall">Cancel</AlertDialog.Cancel>
        <button class="button strong tall" disabled={!holds} onclick={remove}>Delete shoot</button>
      </div>
    </AlertDialog.Content>
  </AlertDialog.Portal>
</AlertDialog.Root>
