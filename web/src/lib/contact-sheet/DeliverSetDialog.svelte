<script lang="ts">
  import { Dialog } from 'bits-ui';
  import type { Order } from '../api/types';
  import OrderControls from '../delivery/OrderControls.svelte';

  import { formatFirst } from '../delivery/focus';
  import { aNewOrder } from '../delivery/order';

  /** Files of all photos that are chosen. */
  interface Props {
    photos: number[];
    ondeliver: (order: Order) => void;
    onclose: () => void;
  }
  let { photos, ondeliver, onclose }: Props = $props();
  const count = $derived(photos.length);
  let order = $state.raw<Order>(aNewOrder('jpeg'));

  function deliver(): void {
    ondeliver(order);
    onclose();
  }
</script>

<Dialog.Root open onOpenChange={(open) => !open && onclose()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      onOpenAutoFocus={formatFirst}
      class="fixed top-[6%] left-1/2 z-50 max-h-[90%] w-[680px] -translate-x-1/2 overflow-y-auto border border-ink bg-raised p-5"
    >
      <Dialog.Title class="text-title font-semibold">
        Deliver {count === 1 ? '1 photo' : `${count} photos`}
      </Dialog.Title>
      <Dialog.Description class="mb-3 text-ink2">
        Each as it is saved{order.folder ? '' : ', all in one zip'}.
      </Dialog.Description>
      <OrderControls {order} photoId={photos[0] ?? 0} onchange={(next) => (order = next)} />
      <div class="mt-5 flex justify-end gap-2">
        <Dialog.Close class="button tall">Cancel</Dialog.Close>
        <button class="button strong tall" onclick={deliver}>Make the files</button>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
