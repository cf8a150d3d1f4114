<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import { call, callWithForm } from '../api/client';
  import type { ColourKey, Picture } from '../api/types';
  import { newBrush, newId, newWhole } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import type { Drawing } from '../studio/tools';

  /** Every kind of part that a mask can be given. */
  const studio = useStudio();
  let names = $state.raw<string[]>([]);
  let picker: HTMLInputElement;

  const drawn: [Drawing, string][] = [
    ['lasso', 'Lasso: draw round it'],
    ['path', 'Path: click points, drag curves'],
    ['oval', 'Oval: drag from its middle'],
    ['ramp', 'Ramp: drag from full to nothing'],
  ];

  function loadNames(open: boolean): void {
    if (open && !names.length)
      void studio.attempt(async () => {
        names = await call<string[]>('GET', '/ready-keys');
      });
  }

  function addReady(name: string): void {
    void studio.attempt(async () => {
      const path = `/ready-keys/${encodeURIComponent(name)}?id=${newId()}`;
      const key = await call<ColourKey>('GET', path);
      studio.addPart({ ...key, join: studio.cast?.mask.parts.length ? 'intersect' : 'add' });
    });
  }

  function addPicture(file: File | undefined): void {
    if (!file) return;
    const form = new FormData();
    form.append('file', file);
    form.append('id', newId());
    void studio.attempt(async () => {
      const path = `/photos/${studio.photo.id}/mask-picture`;
      studio.addPart(await callWithForm<Picture>(path, form));
    });
  }
</script>

<DropdownMenu.Root onOpenChange={loadNames}>
  <DropdownMenu.Trigger class="button">Add part</DropdownMenu.Trigger>
  <DropdownMenu.Portal>
    <DropdownMenu.Content class="menu" align="start" side="top" sideOffset={4}>
      <DropdownMenu.Item
        class="menu-item"
        onSelect={() => {
          studio.addPart(newBrush());
          studio.tool = 'paint';
        }}>Brush</DropdownMenu.Item
      >
      {#each drawn as [kind, label] (kind)}
        <DropdownMenu.Item class="menu-item" onSelect={() => studio.draw(kind)}>
          {label}
        </DropdownMenu.Item>
      {/each}
      <DropdownMenu.Separator class="my-1 h-px bg-line" />
      <DropdownMenu.Item class="menu-item" onSelect={() => studio.addKey()}>
        Colour key of the tainted samples
      </DropdownMenu.Item>
      <DropdownMenu.Sub>
        <DropdownMenu.SubTrigger class="menu-item">
          Ready-made key<span aria-hidden="true">▸</span>
        </DropdownMenu.SubTrigger>
        <DropdownMenu.SubContent class="menu" sideOffset={2}>
          {#each names as name (name)}
            <DropdownMenu.Item class="menu-item" onSelect={() => addReady(name)}>
              {name}
            </DropdownMenu.Item>
          {/each}
        </DropdownMenu.SubContent>
      </DropdownMenu.Sub>
      <DropdownMenu.Separator class="my-1 h-px bg-line" />
      <DropdownMenu.Item class="menu-item" onSelect={() => studio.addPart(newWhole())}>
        Whole photo
      </DropdownMenu.Item>
      <DropdownMenu.Item class="menu-item" onSelect={() => picker.click()}>
        Grey picture from a file
      </DropdownMenu.Item>
    </DropdownMenu.Content>
  </DropdownMenu.Portal>
</DropdownMenu.Root>
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
