<script lang="ts">
  import { Dialog } from 'bits-ui';
  import type { Sheet } from './sheet.svelte';

  /** Files that were not taken in, and why. */
  let { sheet, open = $bindable() }: { sheet: Sheet; open: boolean } = $props();

  async function forget(): Promise<void> {
    await sheet.forgetRefusals();
    open = false;
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="fixed top-[10%] left-1/2 z-50 flex max-h-[80%] w-[560px] -translate-x-1/2 flex-col border border-ink bg-raised p-5"
    >
      <Dialog.Title class="text-title font-semibold">Refused files</Dialog.Title>
      <Dialog.Description class="mb-3 text-ink2">
        They are still where they came from. Taken in after all, a file leaves this list.
      </Dialog.Description>
      <ul class="min-h-0 flex-1 overflow-y-auto">
        {#each sheet.refusals as refusal (refusal.file_name)}
          <li class="border-t border-line py-1.5">
            <p class="truncate font-semibold">{refusal.file_name}</p>
            <p>{refusal.reason}</p>
          </li>
        {/each}
      </ul>
      <div class="mt-4 flex justify-end gap-2">
        <button class="button tall" onclick={forget}>I have read them</button>
        <Dialog.Close class="button strong tall">Close</Dialog.Close>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
