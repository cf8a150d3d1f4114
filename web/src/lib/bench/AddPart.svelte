<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import { call, callWithForm } from '../api/client';
  import type { Guess, KeyEntry, NamedKey, Part, Picture } from '../api/types';
  import * as edit from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import KeysDialog from './KeysDialog.svelte';
  import type { Drawing } from '../studio/tools';

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

  const drawn: [Drawing, string][] = [
    ['lasso', 'Lasso: draw round it'],
    ['path', 'Path: click points, drag curves'],
    ['oval', 'Oval: drag from its middle'],
    ['ramp', 'Ramp: drag from full to nothing'],
    ['snap', 'Object: draw loosely round it'],
  ];

  const guesses: [Guess['of'], string][] = [
    ['sky', 'Sky, as guessed'],
    ['subject', 'Subject, as guessed'],
  ];

  function loadKeys(open: boolean): void {
    if (open)
      void studio.attempt(async () => {
        keys = await call<KeyEntry[]>('GET', '/keys');
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
      const path = `/photos/${studio.photo.id}/mask-picture`;
      studio.masking.addPart(await callWithForm<Picture>(path, form));
    });
  }
</script>

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
      <DropdownMenu.Item
        class="menu-item"
        onSelect={() => {
          studio.masking.addPart(edit.newBrush());
          studio.tool = 'paint';
        }}>Brush</DropdownMenu.Item
      >
      {#each drawn as [kind, label] (kind)}
        <DropdownMenu.Item class="menu-item" onSelect={() => studio.draw(kind)}>
          {label}
        </DropdownMenu.Item>
      {/each}
      <DropdownMenu.Item class="menu-item" onSelect={() => (studio.tool = 'this')}>
        Object: scribble over it
      </DropdownMenu.Item>
      <DropdownMenu.Item class="menu-item" onSelect={() => (studio.tool = 'similar')}>
        Similar and hanging together: click
      </DropdownMenu.Item>
      {#each guesses as [of, label] (of)}
        <DropdownMenu.Item
          class="menu-item"
          onSelect={() => studio.masking.addPart(edit.newGuess(of))}
        >
          {label}
        </DropdownMenu.Item>
      {/each}
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
      <DropdownMenu.Item class="menu-item" onSelect={() => studio.masking.addPart(edit.newWhole())}>
        Whole photo
      </DropdownMenu.Item>
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
