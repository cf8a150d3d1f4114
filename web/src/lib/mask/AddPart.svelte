<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import { call, callWithForm } from '../api/client';
  import type { KeyEntry, NamedKey, Part } from '../api/types';
  import * as edit from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import KeysDialog from './KeysDialog.svelte';
  import type { Hands } from './descriptor';
  import { PARTS } from './descriptors';

  /** Every kind of part that a mask can be given. */
  const studio = useStudio();
  let keys = $state.raw<KeyEntry[]>([]);
  let keeping = $state(false);
  let picker: HTMLInputElement;

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

{#snippet listed(list: typeof entries)}
  {#each list as [label, act] (label)}
    <DropdownMenu.Item class="menu-item" onSelect={() => act(hands)}>{label}</DropdownMenu.Item>
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
    <DropdownMenu.Content class="menu" align="start" side="top" sideOffset={4}>
      {@render listed(entries)}
      <DropdownMenu.Separator class="my-1 h-px bg-line" />
      <DropdownMenu.Item class="menu-item" onSelect={() => addKey(edit.newLuminanceRange())}>
        Range of luminance
      </DropdownMenu.Item>
      <DropdownMenu.Item class="menu-item" onSelect={() => studio.masking.addKey()}>
        Colour key of the tainted samples
      </DropdownMenu.Item>
      <DropdownMenu.Sub>
        <DropdownMenu.SubTrigger class="menu-item">
          Ready-made key<span aria-hidden="true">▸</span>
        </DropdownMenu.SubTrigger>
        <DropdownMenu.SubContent class="menu" sideOffset={2}>
          {@render named(ready)}
        </DropdownMenu.SubContent>
      </DropdownMenu.Sub>
      <DropdownMenu.Sub>
        <DropdownMenu.SubTrigger class="menu-item">
          Own key<span aria-hidden="true">▸</span>
        </DropdownMenu.SubTrigger>
        <DropdownMenu.SubContent class="menu" sideOffset={2}>
          {@render named(own)}
          <DropdownMenu.Item class="menu-item" onSelect={() => (keeping = true)}>
            Keep and manage keys…
          </DropdownMenu.Item>
        </DropdownMenu.SubContent>
      </DropdownMenu.Sub>
      <DropdownMenu.Separator class="my-1 h-px bg-line" />
      {#if lenders.length}
        <DropdownMenu.Sub>
          <DropdownMenu.SubTrigger class="menu-item">
            Mask of another cast<span aria-hidden="true">▸</span>
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
      <DropdownMenu.Item class="menu-item" onSelect={() => picker.click()}>
        Grey picture from a file
      </DropdownMenu.Item>
    </DropdownMenu.Content>
  </DropdownMenu.Portal>
</DropdownMenu.Root>
<KeysDialog bind:open={keeping} />
<input
  bind:this={picker}
  type="file"
  class="hidden"
  accept=".png,.tif,.tiff"
  aria-label="Grey picture for the mask"
  onchange={(event) => {
    addPicture(event.currentTarget.files?.[0]);
    event.currentTarget.value = '';
  }}
/>
