<script lang="ts">
  import { onDestroy } from 'svelte';
  import type { KnownLook, Recipe } from '../api/types';
  import FilePicker from '../controls/FilePicker.svelte';
  import Station from '../controls/Station.svelte';
  import { useStudio } from '../studio/studio.svelte';
  import { withLook } from './look';
  import { keyOf, type Shelf } from './shelf.svelte';

  /** Looks as small pictures of this photo: tried by hovering, laid by a click; a file's is kept. */
  let { shelf }: { shelf: Shelf } = $props();
  const studio = useStudio();
  const laid = $derived(studio.recipe.look?.table);
  let picker: FilePicker;
  /** The recipe as it was before one was tried by hovering. */
  let before: Recipe | null = null;
  let closed = false;

  onDestroy(() => {
    closed = true;
    leave();
  });

  const isLaid = (look: KnownLook): boolean =>
    laid?.name === look.name && (!look.table || look.table.sha256 === laid.sha256);

  /** Over a look the photo shows it, until the pointer leaves. */
  async function hover(look: KnownLook): Promise<void> {
    const table = await shelf.tableOf(look);
    if (closed || studio.moving) return;
    before ??= studio.recipe;
    studio.preview(withLook(before, table));
    studio.moving = false;
  }

  function leave(): void {
    if (!before) return;
    studio.preview(before);
    studio.moving = false;
    before = null;
  }

  function lay(look: KnownLook): void {
    void studio.attempt(async () => {
      const table = await shelf.tableOf(look);
      const from = before ?? studio.recipe;
      before = null;
      studio.commit(withLook(from, table));
    });
  }

  function bringIn(file: File | undefined): void {
    if (file) void studio.attempt(async () => lay(await shelf.keep(file)));
  }

  function forget(look: KnownLook): void {
    leave();
    void studio.attempt(() => shelf.forget(look));
  }
</script>

<Station number={1} title="Looks">
  {#snippet aside()}
    <button class="quiet" onclick={() => picker.open()}>From a file</button>
    <FilePicker
      bind:this={picker}
      accept=".cube"
      label="A .cube table"
      onpick={([file]) => bringIn(file)}
    />
  {/snippet}
  <ul
    class="grid h-full grid-cols-[repeat(auto-fill,minmax(104px,1fr))] content-start gap-1.5 overflow-y-auto"
    aria-label="Looks"
    onpointerleave={leave}
  >
    {#each shelf.looks as look (keyOf(look))}
      <li class="group relative">
        <button
          class="w-full border-2 text-left {isLaid(look) ? 'border-ink' : 'border-transparent'}"
          aria-pressed={isLaid(look)}
          title={look.purpose}
          onpointerenter={() => void hover(look)}
          onfocus={() => void hover(look)}
          onblur={leave}
          onclick={() => lay(look)}
        >
          <span class="block h-[52px] w-full overflow-hidden bg-surround">
            {#if shelf.pictures[keyOf(look)]}
              <img class="h-full w-full object-cover" src={shelf.pictures[keyOf(look)]} alt="" />
            {/if}
          </span>
          <span class="block truncate px-0.5 text-small">{look.name}</span>
        </button>
        {#if look.id !== null}
          <button
            class="absolute top-0.5 right-0.5 bg-raised px-1.5 text-small leading-[18px] opacity-0 group-hover:opacity-100 focus:opacity-100"
            aria-label="Forget {look.name}"
            title="Photos on which it lies keep it"
            onclick={() => forget(look)}>forget</button
          >
        {/if}
      </li>
    {/each}
  </ul>
</Station>
