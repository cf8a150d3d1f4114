<script lang="ts">
  import { DropdownMenu, ToggleGroup } from 'bits-ui';
  import type { Part, Show } from '../api/types';
  import { isBrush, isColourKey, newBrush, newWhole, PART_NAMES } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import BrushControls from './BrushControls.svelte';
  import ColourKeyControls from './ColourKeyControls.svelte';
  import PartControls from './PartControls.svelte';
  import Station from './Station.svelte';

  const studio = useStudio();
  const parts = $derived(studio.cast?.mask.parts ?? []);
  const views: [Show, string][] = [
    ['now', 'result'],
    ['hatch', 'hatch'],
    ['matte', 'matte'],
    ['isolate', 'only masked'],
  ];
  const signs: Record<Part['join'], string> = { add: '+', subtract: '−', intersect: '×' };

  function choose(part: Part): void {
    studio.partId = part.id;
    if (isBrush(part)) studio.tool = 'paint';
    else if (studio.tool === 'paint' || studio.tool === 'erase') studio.tool = 'look';
  }
</script>

<Station number={2} title="Mask">
  {#snippet aside()}
    <ToggleGroup.Root
      type="single"
      value={studio.show}
      onValueChange={(value) => (studio.show = (value || 'now') as Show)}
      class="flex gap-0.5"
      aria-label="How the mask is shown"
    >
      {#each views as [value, label] (value)}
        <ToggleGroup.Item
          {value}
          class="quiet px-1 whitespace-nowrap text-ink2 xl:px-1.5 data-[state=on]:bg-ink data-[state=on]:text-inverse"
        >
          {label}
        </ToggleGroup.Item>
      {/each}
    </ToggleGroup.Root>
  {/snippet}
  {#if studio.cast}
    <div class="mb-1 flex flex-wrap items-center gap-1.5">
      {#each parts as part, i (part.id)}
        {#if i}<span class="w-3 text-center" title={part.join}>{signs[part.join]}</span>{/if}
        <button
          class="button"
          class:line-through={!part.on}
          aria-pressed={studio.part?.id === part.id}
          onclick={() => choose(part)}>{part.invert ? 'not ' : ''}{PART_NAMES[part.kind]}</button
        >
      {/each}
      {#if !parts.length}
        <button
          class="button"
          aria-pressed={studio.tool === 'paint'}
          onclick={() => (studio.tool = 'paint')}>Brush</button
        >
      {/if}
      <DropdownMenu.Root>
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
            <DropdownMenu.Item class="menu-item" onSelect={() => studio.addKey()}>
              Colour key of the tainted samples
            </DropdownMenu.Item>
            <DropdownMenu.Item class="menu-item" onSelect={() => studio.addPart(newWhole())}>
              Whole photo
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {#if studio.part}<span class="flex-1"></span><PartControls part={studio.part} />{/if}
    </div>
    {#if isColourKey(studio.part)}
      <ColourKeyControls part={studio.part} />
    {:else if !studio.part || isBrush(studio.part)}
      <BrushControls />
    {:else if studio.part.kind === 'whole'}
      <p class="text-ink2">
        Everything. Join a colour key by intersecting, or take a brush away from it.
      </p>
    {:else}
      <p class="text-ink2">
        A region as it was found, or a grey picture that came with the recipe. Add a brush to widen
        it, or to take away from it.
      </p>
    {/if}
  {:else}
    <p class="text-ink2">A mask belongs to a cast; nothing outside it will move.</p>
  {/if}
</Station>
