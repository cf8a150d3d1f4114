<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { SvelteSet } from 'svelte/reactivity';
  import type { Sheet } from './sheet.svelte';

  /** What was taken out of the shoot, until it goes for good. */
  let { sheet, open = $bindable() }: { sheet: Sheet; open: boolean } = $props();
  const chosen = new SvelteSet<number>();
  let sure = $state(false);
  const picked = $derived(sheet.bin.map((b) => b.photo.id).filter((id) => chosen.has(id)));
  const day = (time: string): string =>
    new Date(time).toLocaleDateString('en-GB', { day: 'numeric', month: 'long' });

  async function putBack(ids: number[]): Promise<void> {
    await sheet.putBack(ids);
    if (!sheet.bin.length) open = false;
  }

  async function empty(): Promise<void> {
    await sheet.emptyBin();
    sure = open = false;
  }
</script>

<Dialog.Root bind:open onOpenChange={() => (sure = false)}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="fixed top-[10%] left-1/2 z-50 flex max-h-[80%] w-[520px] -translate-x-1/2 flex-col border border-ink bg-raised p-5"
    >
      <Dialog.Title class="text-title font-semibold">Bin</Dialog.Title>
      <Dialog.Description class="mb-3 text-ink2">
        Kept for thirty days with all that was done on them.
      </Dialog.Description>
      <ul class="min-h-0 flex-1 overflow-y-auto">
        {#each sheet.bin as { photo, gone } (photo.id)}
          <li class="border-t border-line">
            <label class="flex items-center gap-3 py-1.5">
              <input
                type="checkbox"
                class="h-4 w-4 accent-[var(--ink)]"
                checked={chosen.has(photo.id)}
                onchange={() => chosen.delete(photo.id) || chosen.add(photo.id)}
              />
              <span class="min-w-0 flex-1 truncate">{photo.title}</span>
              <span class="text-ink2">goes on {day(gone)}</span>
            </label>
          </li>
        {/each}
      </ul>
      <div class="mt-4 flex items-center justify-end gap-2">
        {#if sure}
          <span class="flex-1">Nothing of them can be had back.</span>
          <button class="button tall" onclick={() => (sure = false)}>Keep them</button>
          <button class="button strong tall" onclick={empty}>Empty the bin</button>
        {:else}
          {#if sheet.shoot?.may === 'own'}
            <button class="button tall" onclick={() => (sure = true)}>Empty…</button>
          {/if}
          <Dialog.Close class="button tall">Close</Dialog.Close>
          <button
            class="button strong tall"
            onclick={() => putBack(picked.length ? picked : sheet.bin.map((b) => b.photo.id))}
            >{picked.length ? `Put ${picked.length} back` : 'Put all back'}</button
          >
        {/if}
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
