<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import { onMount } from 'svelte';
  import { call, reasonOf } from '../api/client';
  import type { LibraryEntry, ShootEntry } from '../api/types';
  import FilePicker from '../controls/FilePicker.svelte';
  import RoomMenu from '../room/RoomMenu.svelte';
  import { link } from '../router.svelte';
  import BuiltInStrip from './BuiltInStrip.svelte';
  import EntryCard from './EntryCard.svelte';
  import { colourOf, GROUPS, Library } from './library.svelte';
  import NewEntry from './NewEntry.svelte';

  const library = new Library();
  let shoots = $state.raw<ShootEntry[]>([]);
  /** Only what is kept for this shoot; null: everything. */
  let shoot = $state<number | null>(null);
  let told = $state('');
  let trouble = $state('');
  let removed = $state.raw<LibraryEntry | null>(null);
  let adding = $state(false);
  let picker: FilePicker;

  const shown = $derived(
    library.entries.filter((e) => e.id !== null && (shoot === null || e.shoot === shoot)),
  );
  const query = $derived(shoot === null ? '' : `?shoot=${shoot}`);

  onMount(() => {
    document.title = 'References · Nubilis';
    void attempt(async () => {
      shoots = await call('get', '/api/shoots');
      await library.load();
    });
  });

  async function attempt(work: () => Promise<void>): Promise<void> {
    trouble = told = '';
    removed = null;
    try {
      await work();
    } catch (error) {
      trouble = reasonOf(error);
    }
  }

  function bringIn(file: File | undefined): Promise<void> {
    return attempt(async () => {
      if (!file) return;
      const { added, already } = await library.bringIn(file, shoot);
      told = `${added} added${already ? `, ${already} kept already` : ''}.`;
    });
  }

  function remove(entry: LibraryEntry): Promise<void> {
    return attempt(async () => {
      await library.remove(entry);
      removed = entry;
    });
  }

  function putBack(entry: LibraryEntry): Promise<void> {
    return attempt(() => library.keep(colourOf(entry), entry.shoot));
  }
</script>

<div class="flex h-full flex-col">
  <header class="flex h-12 shrink-0 items-center gap-4 border-b border-line px-4">
    <a href="/" use:link class="text-[16px] font-bold">Nubilis</a>
    <h1 class="text-lead">References</h1>
    <label class="flex items-center gap-2 text-ink2">
      Kept for
      <select
        class="field max-w-[320px] text-ink"
        value={shoot ?? ''}
        onchange={(event) => (shoot = Number(event.currentTarget.value) || null)}
      >
        <option value="">any shoot</option>
        {#each shoots as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
      </select>
    </label>
    <span class="flex-1"></span>
    <RoomMenu />
    <button class="button tall" onclick={() => picker.open()}>Import</button>
    <DropdownMenu.Root>
      <DropdownMenu.Trigger class="button tall" disabled={!shown.length}
        >Export<span aria-hidden="true">▾</span></DropdownMenu.Trigger
      >
      <DropdownMenu.Portal>
        <DropdownMenu.Content class="menu" align="end" sideOffset={4}>
          {#each [['json', 'JSON'], ['csv', 'CSV, CIELAB D50']] as const as [kind, label] (kind)}
            <DropdownMenu.Item class="menu-item">
              {#snippet child({ props })}
                <a {...props} href="/api/references/export.{kind}{query}" download>{label}</a>
              {/snippet}
            </DropdownMenu.Item>
          {/each}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
    <button class="button strong tall" aria-expanded={adding} onclick={() => (adding = !adding)}
      >New colour</button
    >
  </header>
  <main class="min-h-0 flex-1 overflow-y-auto p-5">
    {#if trouble}
      <p role="alert" class="notched mb-4 w-fit bg-attention py-1 pr-3 text-inverse">{trouble}.</p>
    {/if}
    {#if told || removed}
      <p role="status" class="mb-4 flex items-center gap-3">
        {#if removed}
          {@const gone = removed}
          {gone.name} is removed.
          <button class="button" onclick={() => putBack(gone)}>Put it back</button>
        {:else}{told}{/if}
      </p>
    {/if}
    {#if adding}
      <NewEntry
        where={shoots.find((s) => s.id === shoot)?.name}
        onmade={(colour) =>
          attempt(async () => {
            await library.keep(colour, shoot);
            adding = false;
          })}
      />
    {/if}
    {#each GROUPS as [group, label] (group)}
      {@const own = shown.filter((e) => e.group === group)}
      {@const builtIn = library.of(group).filter((e) => e.id === null)}
      <section class="mb-6" aria-label={label}>
        <h2 class="mb-2 text-lead font-semibold">{label}</h2>
        {#if builtIn.length}<BuiltInStrip entries={builtIn} />{/if}
        {#if own.length}
          <div class="grid grid-cols-[repeat(auto-fill,minmax(380px,1fr))] gap-3">
            {#each own as entry (entry.id)}
              <EntryCard
                {entry}
                {shoots}
                onchange={(to, where) => attempt(() => library.change(entry, to, where))}
                onremove={() => remove(entry)}
              />
            {/each}
          </div>
        {:else if library.loaded && !builtIn.length}
          <p class="text-ink2">
            None of your own yet. Open a sample on the work screen and keep it, or type one here.
          </p>
        {/if}
      </section>
    {/each}
  </main>
</div>
<FilePicker
  bind:this={picker}
  accept=".json,.csv"
  label="References to import"
  onpick={([file]) => void bringIn(file)}
/>
