<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import { call, callWithForm } from '../api/client';
  import type { KeyEntry, NamedKey, Part } from '../api/types';
  import FilePicker from '../controls/FilePicker.svelte';
  import * as edit from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import KeysDialog from './KeysDialog.svelte';
  import type { Hands } from './descriptor';
  import { PARTS } from './descriptors';

  /** Every kind of part that a mask can be given. */
  const studio = useStudio();
  let keys = $state.raw<KeyEntry[]>([]);
  let keeping = $state(false);
  let picker: FilePicker;

  const ready = $derived(keys.filter((k) => k.id == null));
  const own = $derived(keys.filter((k) => k.id != null));
  /** Casts whose masks can be used here without going round in a circle. */
  const lenders = $derived.by(() => {
    const { recipe, castId } = studio;
    if (!castId) return [];
    return recipe.casts.filter((c) => c.id !== castId && !edit.dependsOn(recipe, c.id, castId));
  });

  const hands: Hands = {
    addPart: (part) => studio.masking.addPart(part),
    take: (tool) => (studio.tool = tool),
    draw: (kind) => studio.draw(kind),
    person: (of, orElse) => void studio.people.add(of, orElse),
  };
  /** Those that a menu entry is all of. */
  const entries = PARTS.filter((p) => !p.last).flatMap((p) => p.adding);
  const last = PARTS.filter((p) => p.last).flatMap((p) => p.adding);

  function loadKeys(open: boolean): void {
    if (open)
      void studio.attempt(async () => {
        keys = await call('get', '/api/keys');
      });
  }

  /** A key holds what is masked already to its colours. */
  function addKey(part: Part): void {
    studio.masking.addPart({ ...part, join: studio.cast?.mask.parts.length ? 'intersect' : 'add' });
  }

  const addNamed = (key: NamedKey): void => addKey(edit.newKey(key));

  function addPicture(file: File | undefined): void {
    if (!file) return;
    const form = new FormData();
    form.append('file', file);
    form.append('id', edit.newId());
    void studio.attempt(async () => {
      const path = { photo_id: studio.photo.id };
      const address = '/api/photos/{photo_id}/mask-picture';
      studio.masking.addPart(await callWithForm(address, path, form));
    });
  }
</script>

{#snippet drawn(drawing: string)}
  <svg class="h-5 w-5 shrink-0" viewBox="0 0 24 24" aria-hidden="true">
    <path d={drawing} fill="none" stroke="currentColor" stroke-width="1.5" />
  </svg>
{/snippet}

{#snippet listed(list: typeof entries)}
  {#each list as [label, drawing, act] (label)}
    <DropdownMenu.Item class="menu-item drawn" onSelect={() => act(hands)}
      >{@render drawn(drawing)}{label}</DropdownMenu.Item
    >
  {/each}
{/snippet}

{#snippet named(list: KeyEntry[])}
  {#each list as { key } (key.name)}
    <DropdownMenu.Item class="menu-item" onSelect={() => addNamed(key)}
      >{key.name}</DropdownMenu.Item
    >
  {/each}
{/snippet}

<DropdownMenu.Root onOpenChange={loadKeys}>
  <DropdownMenu.Trigger class="button">Add part</DropdownMenu.Trigger>
  <DropdownMenu.Portal>
    <!-- Beside the button and low, so that it lies on the bench and not on the photo. -->
    <DropdownMenu.Content
      class="menu grid {studio.bench.portrait ? '' : 'grid-cols-[repeat(3,auto)]'}"
      align={studio.bench.portrait ? 'start' : 'end'}
      side={studio.bench.portrait ? 'top' : 'right'}
      sideOffset={6}
    >
      {@render listed(entries)}
      <DropdownMenu.Item class="menu-item drawn" onSelect={() => addKey(edit.newLuminanceRange())}>
        {@render drawn('M3 18H21M3 18C8 18 9 7 12 7S16 18 21 18')}Range of luminance
      </DropdownMenu.Item>
      <DropdownMenu.Item class="menu-item drawn" onSelect={() => studio.masking.addKey()}>
        {@render drawn('M4 8H20V16H4ZM9 5V19M15 5V19')}{studio.cast?.pairs.length
          ? 'Colour key of the tainted samples'
          : 'Colour key'}
      </DropdownMenu.Item>
      <DropdownMenu.Sub>
        <DropdownMenu.SubTrigger class="menu-item drawn">
          {@render drawn('M4 8H20V16H4ZM9 8V16')}Ready-made key<span aria-hidden="true">▸</span>
        </DropdownMenu.SubTrigger>
        <DropdownMenu.SubContent class="menu" sideOffset={2}>
          {@render named(ready)}
        </DropdownMenu.SubContent>
      </DropdownMenu.Sub>
      <DropdownMenu.Sub>
        <DropdownMenu.SubTrigger class="menu-item drawn">
          {@render drawn('M4 8H20V16H4ZM15 8V16M18 4V7')}Own key<span aria-hidden="true">▸</span>
        </DropdownMenu.SubTrigger>
        <DropdownMenu.SubContent class="menu" sideOffset={2}>
          {@render named(own)}
          <DropdownMenu.Item class="menu-item" onSelect={() => (keeping = true)}>
            Keep and manage keys…
          </DropdownMenu.Item>
        </DropdownMenu.SubContent>
      </DropdownMenu.Sub>
      {#if lenders.length}
        <DropdownMenu.Sub>
          <DropdownMenu.SubTrigger class="menu-item drawn">
            {@render drawn('M4 4H14V14H4ZM10 10H20V20H10Z')}Mask of another cast<span
              aria-hidden="true">▸</span
            >
          </DropdownMenu.SubTrigger>
          <DropdownMenu.SubContent class="menu" sideOffset={2}>
            {#each lenders as cast (cast.id)}
              <DropdownMenu.Item
                class="menu-item"
                onSelect={() => studio.masking.addPart(edit.newLent(cast.id))}
              >
                {studio.titleOf(cast)}
              </DropdownMenu.Item>
            {/each}
          </DropdownMenu.SubContent>
        </DropdownMenu.Sub>
      {/if}
      {@render listed(last)}
      <DropdownMenu.Item class="menu-item drawn" onSelect={() => picker.open()}>
        {@render drawn('M5 3H15L19 7V21H5ZM15 3V7H19')}Grey picture from a file
      </DropdownMenu.Item>
    </DropdownMenu.Content>
  </DropdownMenu.Portal>
</DropdownMenu.Root>
<KeysDialog bind:open={keeping} />
<FilePicker
  bind:this={picker}
  accept=".png,.tif,.tiff"
  label="Grey picture for the mask"
  onpick={([file]) => addPicture(file)}
/>
