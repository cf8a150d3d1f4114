<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { room } from '../room/room.svelte';
  import { SHORTCUTS } from '../studio/shortcuts';

  let { open = $bindable() }: { open: boolean } = $props();
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="fixed top-[8%] left-1/2 z-50 max-h-[84%] w-[560px] -translate-x-1/2 overflow-y-auto border border-ink bg-raised p-5"
    >
      <Dialog.Title class="text-title font-semibold">Keys and figures</Dialog.Title>
      <Dialog.Description class="mb-3 text-ink2">
        Every number can be typed; arrows step it, with Shift coarsely, with Alt finely. A double
        click on a slider puts it back to rest.
      </Dialog.Description>
      <dl class="grid grid-cols-2 gap-x-8">
        {#each SHORTCUTS as { keys, text } (text)}
          <div class="flex min-h-[26px] items-center justify-between border-b border-faint">
            <dd>{text}</dd>
            <dt class="text-ink2">{keys}</dt>
          </div>
        {/each}
      </dl>
      <h3 class="mt-4 font-semibold">The dial</h3>
      <p class="text-ink2">
        Its centre is the reference. The hollow dot is where the sampled colour was, the filled one
        where it is now; right is towards red, up towards yellow. The ring is 20 units of CIELAB
        away.
      </p>
      <div class="mt-5 flex items-center justify-between">
        <label class="flex items-center gap-2">
          <input
            type="checkbox"
            class="h-4 w-4 accent-[var(--ink)]"
            checked={room.settings.letters}
            onchange={(event) => room.set({ letters: event.currentTarget.checked })}
          />
          Single letters and digits work as keys
        </label>
        <Dialog.Close class="button tall">Close</Dialog.Close>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
