<script lang="ts">
  import { Dialog } from 'bits-ui';
  import type { Photo, Vector } from '../api/types';

  /** A photo, to click a place on it. */
  interface Props {
    photo: Photo;
    revision: number;
    title: string;
    onpick: (at: Vector) => void;
    onclose: () => void;
  }
  let { photo, revision, title, onpick, onclose }: Props = $props();
  const STEP = 0.005;
  const edge = $derived(Math.max(photo.width, photo.height));
  /** For the keyboard. */
  // svelte-ignore state_referenced_locally
  let cross = $state<Vector>([
    photo.width / Math.max(photo.width, photo.height) / 2,
    photo.height / Math.max(photo.width, photo.height) / 2,
  ]);
  let keyed = $state(false);

  function click(event: MouseEvent): void {
    if (event.detail === 0) return onpick(cross);
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const scale = Math.max(box.width, box.height);
    onpick([(event.clientX - box.left) / scale, (event.clientY - box.top) / scale]);
  }

  const MOVES: Record<string, Vector> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  };

  function keydown(event: KeyboardEvent): void {
    const move = MOVES[event.key];
    if (!move) return;
    event.preventDefault();
    keyed = true;
    const far = STEP * (event.shiftKey ? 5 : 1);
    const most: Vector = [photo.width / edge - STEP, photo.height / edge - STEP];
    cross = [0, 1].map((i) =>
      Math.min(Math.max(cross[i]! + move[i]! * far, STEP), most[i]!),
    ) as Vector;
  }
</script>

<Dialog.Root open onOpenChange={(open) => !open && onclose()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content class="fixed inset-[5%] z-50 flex flex-col border border-ink bg-raised p-4">
      <Dialog.Title class="text-lead font-semibold">{title}</Dialog.Title>
      <Dialog.Description class="mb-3 text-ink2">
        Click, or move the cross with the arrows and press Enter.
      </Dialog.Description>
      <div class="flex min-h-0 flex-1 items-center justify-center bg-surround p-3">
        <button
          class="relative max-h-full max-w-full cursor-crosshair"
          style:aspect-ratio="{photo.width} / {photo.height}"
          style:height={photo.width > 1.5 * photo.height ? 'auto' : '100%'}
          aria-label="Place on {photo.title}"
          onclick={click}
          onkeydown={keydown}
        >
          <img
            class="block h-full w-full"
            src="/api/photos/{photo.id}/whole?revision={revision}"
            alt=""
            draggable="false"
          />
          {#if keyed}
            <span
              class="cross"
              style:left="{(cross[0] / (photo.width / edge)) * 100}%"
              style:top="{(cross[1] / (photo.height / edge)) * 100}%"
            ></span>
          {/if}
        </button>
      </div>
      <div class="mt-3 flex justify-end">
        <Dialog.Close class="button tall">Cancel</Dialog.Close>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>

<style>
  .cross {
    position: absolute;
    width: 17px;
    height: 17px;
    margin: -8px 0 0 -8px;
    border: 1px solid #161616;
    outline: 1px solid #f2f2f2;
  }
</style>
