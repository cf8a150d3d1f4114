<script lang="ts">
  import { Dialog } from 'bits-ui';
  import type { FileWanted } from '../api/types';
  import WantedControls from '../delivery/WantedControls.svelte';

  /** Files of all photos that are chosen. */
  interface Props {
    count: number;
    ondeliver: (wanted: FileWanted) => void;
    onclose: () => void;
  }
  let { count, ondeliver, onclose }: Props = $props();
  let wanted = $state.raw<FileWanted>({ file_format: 'jpeg', space: 'keep', long_edge: null });

  function deliver(): void {
    ondeliver(wanted);
    onclose();
  }
</script>

<Dialog.Root open onOpenChange={(open) => !open && onclose()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="fixed top-[10%] left-1/2 z-50 w-[440px] -translate-x-1/2 border border-ink bg-raised p-5"
    >
      <Dialog.Title class="text-title font-semibold">
        Deliver {count === 1 ? '1 photo' : `${count} photos`}
      </Dialog.Title>
      <Dialog.Description class="mb-3 text-ink2">
        Each as it is saved, all in one zip.
      </Dialog.Description>
      <WantedControls {wanted} onchange={(next) => (wanted = next)} />
      <div class="mt-5 flex justify-end gap-2">
        <Dialog.Close class="button tall">Cancel</Dialog.Close>
        <button class="button strong tall" onclick={deliver}>Make the files</button>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
