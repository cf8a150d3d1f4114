<script lang="ts">
  import { ToggleGroup } from 'bits-ui';
  import type { Part, Show } from '../api/types';
  import { isBrush, isColourKey, NO_REFINE, PART_NAMES, same } from '../recipe/edit';
  import { isShape } from '../shapes/shape';
  import { useStudio } from '../studio/studio.svelte';
  import AddPart from './AddPart.svelte';
  import BrushControls from './BrushControls.svelte';
  import ColourKeyControls from './ColourKeyControls.svelte';
  import PartControls from './PartControls.svelte';
  import RefineControls from './RefineControls.svelte';
  import ShapeControls from './ShapeControls.svelte';
  import Station from './Station.svelte';

  const studio = useStudio();
  const parts = $derived(studio.cast?.mask.parts ?? []);
  const refined = $derived(studio.cast && !same(studio.cast.mask.refine, NO_REFINE));
  const views: [Show, string][] = [
    ['now', 'result'],
    ['hatch', 'hatch'],
    ['matte', 'matte'],
    ['isolate', 'only masked'],
  ];
  const signs: Record<Part['join'], string> = { add: '+', subtract: '−', intersect: '×' };

  function choose(part: Part): void {
    studio.partId = part.id;
    studio.refining = false;
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
          aria-pressed={!studio.refining && studio.part?.id === part.id}
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
      <AddPart />
      {#if parts.length}
        <button
          class="button px-1.5"
          aria-pressed={studio.refining}
          title="Clean, grow and soften the whole mask"
          onclick={() => (studio.refining = !studio.refining)}>Refine{refined ? ' ●' : ''}</button
        >
      {/if}
      {#if studio.part && !studio.refining}
        <span class="flex-1"></span><PartControls part={studio.part} />
      {/if}
    </div>
    {#if studio.refining}
      <RefineControls refine={studio.cast.mask.refine} />
    {:else if isShape(studio.part)}
      <ShapeControls part={studio.part} />
    {:else if isColourKey(studio.part)}
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
