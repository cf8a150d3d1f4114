<script lang="ts">
  import FilePicker from '../controls/FilePicker.svelte';
  import { Dialog } from 'bits-ui';
  import KeepForm from '../controls/KeepForm.svelte';
  import { call, reasonOf } from '../api/client';
  import type { KeyEntry } from '../api/types';
  import { isColourKey } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';

  /** A person's own colour keys: kept under a name, deleted, taken out and brought in as a file. */
  let { open = $bindable() }: { open: boolean } = $props();
  const studio = useStudio();
  let own = $state.raw<KeyEntry[]>([]);
  let told = $state('');
  let picker = $state<FilePicker>();
  const part = $derived(isColourKey(studio.masking.part) ? studio.masking.part : null);

  $effect(() => {
    if (open) {
      told = '';
      void attempt(load);
    }
  });

  async function load(): Promise<void> {
    const keys = await call('get', '/api/keys');
    own = keys.filter((k) => k.id != null);
  }

  /** Whether it went well; what goes wrong is told. */
  async function attempt(work: () => Promise<void>): Promise<boolean> {
    try {
      await work();
      return true;
    } catch (error) {
      told = `${reasonOf(error)}.`;
      return false;
    }
  }

  async function keep(name: string): Promise<boolean> {
    if (!part) return false;
    const { hue, saturation, luminance, left_out } = part;
    return attempt(async () => {
      const body = { name, hue, saturation, luminance, left_out };
      const kept = await call('post', '/api/keys', { body });
      told = kept.added ? `${name} is kept.` : `${name} took the place of the one of that name.`;
      await load();
    });
  }

  function remove(entry: KeyEntry): void {
    const { id } = entry;
    if (id === null) return; // a ready-made one stays
    void attempt(async () => {
      await call('delete', '/api/keys/{key_id}', { path: { key_id: id } });
      told = `${entry.key.name} is deleted; masks made from it stay.`;
      await load();
    });
  }

  function bringIn(file: File | undefined): void {
    if (!file) return;
    void attempt(async () => {
      const text = await file.text();
      const { added, changed } = await call('post', '/api/keys/import', { body: { text } });
      told = `${added} added, ${changed} replaced.`;
      await load();
    });
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="fixed top-[12%] left-1/2 z-50 flex max-h-[76%] w-[460px] -translate-x-1/2 flex-col border border-ink bg-raised p-5"
    >
      <Dialog.Title class="text-title font-semibold">Own keys</Dialog.Title>
      <Dialog.Description class="mb-3 text-ink2">
        Yours on every photo. A key is calculated from the colours of the photo that it is used on.
      </Dialog.Description>
      {#if part}
        <KeepForm
          label="Name of the key"
          placeholder="Keep the selected key as"
          most={60}
          onkeep={keep}
        />
      {/if}
      <ul class="min-h-[60px] flex-1 overflow-y-auto border border-line" aria-label="Own keys">
        {#each own as entry (entry.id)}
          <li class="flex items-center gap-2 border-b border-faint px-2 py-0.5">
            <span class="min-w-0 flex-1 truncate">{entry.key.name}</span>
            <button class="quiet" aria-label="Delete {entry.key.name}" onclick={() => remove(entry)}
              >Delete</button
            >
          </li>
        {:else}
          <li class="px-2 py-1 text-ink2">None yet. Select a colour key of a mask to keep it.</li>
        {/each}
      </ul>
      <p class="mt-2 min-h-[18px] text-ink2" role="status">{told}</p>
      <div class="mt-2 flex items-center gap-2">
        <button class="button tall" onclick={() => picker?.open()}>Bring in a file</button>
        {#if own.length}
          <a class="button tall" href="/api/keys/export.json" download="keys.json">Take out</a>
        {/if}
        <span class="flex-1"></span>
        <Dialog.Close class="button tall">Close</Dialog.Close>
      </div>
      <FilePicker
        bind:this={picker}
        accept=".json"
        label="File of keys"
        onpick={([file]) => bringIn(file)}
      />
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
