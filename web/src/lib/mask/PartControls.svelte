<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import { callForDownload } from '../api/client';
  import type { MaskFormat, Part } from '../api/types';
  import MenuChoice from '../controls/MenuChoice.svelte';
  import NumberField from '../controls/NumberField.svelte';
  import { useStudio } from '../studio/studio.svelte';

  let { part }: { part: Part } = $props();
  const studio = useStudio();
  const first = $derived(studio.cast?.mask.parts[0]?.id === part.id);
  const joins: [Part['join'], string][] = [
    ['add', '+ adds to what is before it'],
    ['subtract', '− is taken away from it'],
    ['intersect', '× only where both are'],
  ];
  const pictures: [string, MaskFormat, boolean][] = [
    ['The mask, PNG 8 bit', 'png', true],
    ['The mask, PNG 16 bit', 'png16', true],
    ['The mask, TIFF 8 bit', 'tiff', true],
    ['The mask, TIFF 16 bit', 'tiff16', true],
    ['This part alone, PNG 16 bit', 'png16', false],
  ];

  function save(file_format: MaskFormat, whole: boolean): void {
    const { recipe, castId } = studio;
    const path = { photo_id: studio.photo.id };
    const body = { recipe, cast: castId ?? '', part: whole ? null : part.id, file_format };
    void studio.attempt(() => callForDownload('/api/photos/{photo_id}/mask', { path, body }));
  }

  const words = { add: 'adds', subtract: 'takes away', intersect: 'intersects' };
</script>

<NumberField
  label="Strength of this part"
  value={part.strength * 100}
  least={0}
  most={100}
  step={1}
  unit=" %"
  width={50}
  onchange={(value) => studio.masking.changePart((p) => ({ ...p, strength: value / 100 }))}
/>
<DropdownMenu.Root>
  <DropdownMenu.Trigger class="button" title="What this part does">
    {first ? 'Part' : words[part.join]}<span aria-hidden="true">▾</span>
  </DropdownMenu.Trigger>
  <DropdownMenu.Portal>
    <DropdownMenu.Content class="menu" align="end" side="top" sideOffset={4}>
      {#if !first}
        <MenuChoice
          value={part.join}
          choices={joins}
          onchoose={(join) => studio.masking.changePart((p) => ({ ...p, join }))}
        />
      {/if}
      <DropdownMenu.CheckboxItem
        class="menu-item"
        checked={part.invert}
        onCheckedChange={(invert) => studio.masking.changePart((p) => ({ ...p, invert }))}
      >
        {#snippet children({ checked })}Inverted<span>{checked ? '●' : ''}</span>{/snippet}
      </DropdownMenu.CheckboxItem>
      <DropdownMenu.CheckboxItem
        class="menu-item"
        checked={part.on}
        onCheckedChange={(on) => studio.masking.changePart((p) => ({ ...p, on }))}
      >
        {#snippet children({ checked })}Switched on<span>{checked ? '●' : ''}</span>{/snippet}
      </DropdownMenu.CheckboxItem>
      <DropdownMenu.Separator class="my-1 h-px bg-line" />
      <DropdownMenu.Item class="menu-item" onSelect={() => studio.masking.duplicatePart(part.id)}>
        Duplicate this part
      </DropdownMenu.Item>
      <DropdownMenu.Item class="menu-item" onSelect={() => studio.addCastOfTheRest()}>
        New cast for all that is not masked
      </DropdownMenu.Item>
      <DropdownMenu.Sub>
        <DropdownMenu.SubTrigger class="menu-item">
          Save as a grey picture<span aria-hidden="true">▸</span>
        </DropdownMenu.SubTrigger>
        <DropdownMenu.SubContent class="menu" sideOffset={2}>
          {#each pictures as [label, format, whole] (label)}
            <DropdownMenu.Item class="menu-item" onSelect={() => save(format, whole)}>
              {label}
            </DropdownMenu.Item>
          {/each}
        </DropdownMenu.SubContent>
      </DropdownMenu.Sub>
      <DropdownMenu.Separator class="my-1 h-px bg-line" />
      <DropdownMenu.Item class="menu-item" onSelect={() => studio.masking.removePart(part.id)}>
        Delete this part
      </DropdownMenu.Item>
    </DropdownMenu.Content>
  </DropdownMenu.Portal>
</DropdownMenu.Root>
