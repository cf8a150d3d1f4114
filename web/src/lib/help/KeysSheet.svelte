<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { room } from '../room/room.svelte';
  import {
    type Command,
    COMMANDS,
    GESTURES,
    keyOf,
    mayBeKey,
    putKey,
    resetKeys,
    shownKey,
  } from './commands';

  let { open = $bindable() }: { open: boolean } = $props();
  /** The command that waits for its new key. */
  let waiting = $state<Command | null>(null);
  let refused = $state('');

  function take(event: KeyboardEvent): void {
    if (!waiting || event.ctrlKey || event.altKey || event.metaKey || event.key === 'Shift') return;
    event.preventDefault();
    event.stopPropagation();
    const key = event.key.toLowerCase();
    refused = '';
    if (key !== 'escape' && !mayBeKey(key)) {
      refused = `${event.key} cannot be one: the controls use it.`;
      return;
    }
    if (key !== 'escape') putKey(waiting, key);
    waiting = null;
  }
</script>

<svelte:window onkeydowncapture={take} />

<Dialog.Root bind:open onOpenChange={() => (waiting = null)}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="fixed top-[5%] left-1/2 z-50 max-h-[90%] w-[640px] max-w-[96%] -translate-x-1/2 overflow-y-auto border border-ink bg-raised p-5"
    >
      <Dialog.Title class="text-title font-semibold">Keys and figures</Dialog.Title>
      <Dialog.Description class="mb-3 text-ink2">
        Press a key's button and then the key that you would rather have. Every number can be typed;
        arrows step it, with Shift coarsely, with Alt finely. A double click on a slider puts it
        back to rest. <a href="/guide" target="_blank" class="underline">The guide</a> goes through the
        job.
      </Dialog.Description>
      <div class="grid grid-cols-2 gap-x-8">
        <dl>
          {#each COMMANDS as { id, text, ...more } (id)}
            <div class="flex min-h-[28px] items-center justify-between border-b border-faint">
              <dt>{text}{'held' in more ? ', held' : ''}</dt>
              <dd>
                <button
                  class="quiet min-w-[30px] border border-line px-1.5 aria-pressed:bg-ink aria-pressed:text-inverse"
                  aria-pressed={waiting === id}
                  aria-label="{waiting === id ? 'Press it' : shownKey(keyOf(id))}, key of: {text}"
                  onclick={() => (waiting = waiting === id ? null : id)}
                  >{waiting === id ? 'Press it' : shownKey(keyOf(id))}</button
                >
              </dd>
            </div>
          {/each}
        </dl>
        <div>
          <dl>
            {#each GESTURES as { keys, text } (text)}
              <div class="flex min-h-[28px] items-center justify-between border-b border-faint">
                <dt>{text}</dt>
                <dd class="text-ink2">{keys}</dd>
              </div>
            {/each}
          </dl>
          <h3 class="mt-4 font-semibold">The dial</h3>
          <p class="text-ink2">
            Its centre is the reference. The hollow dot is where the sampled colour was, the filled
            one where it is now; right is towards red, up towards yellow. The ring is 20 units of
            CIELAB away.
          </p>
        </div>
      </div>
      <p class="min-h-[20px] pt-1 text-small" role="status">{refused}</p>
      <div class="mt-5 flex items-center gap-3">
        <label class="flex flex-1 items-center gap-2">
          <input
            type="checkbox"
            class="h-4 w-4 accent-[var(--ink)]"
            checked={room.settings.letters}
            onchange={(event) => room.set({ letters: event.currentTarget.checked })}
          />
          Single keys work
        </label>
        <button
          class="button tall"
          disabled={!Object.keys(room.settings.keys).length}
          onclick={resetKeys}>All keys back</button
        >
        <Dialog.Close class="button tall">Close</Dialog.Close>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
