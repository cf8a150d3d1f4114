<script lang="ts">
  import { ToggleGroup } from 'bits-ui';
  import type { Part, Show } from '../api/types';
  import {
    isBrush,
    isColourKey,
    isLent,
    isSimilar,
    isSnap,
    letterOf,
    NO_REFINE,
    PART_NAMES,
    same,
  } from '../recipe/edit';
  import { isShape } from '../shapes/shape';
  import { useStudio } from '../studio/studio.svelte';
  import AddPart from './AddPart.svelte';
  import BrushControls from './BrushControls.svelte';
  import ColourKeyControls from './ColourKeyControls.svelte';
  import PartControls from './PartControls.svelte';
  import RefineControls from './RefineControls.svelte';
  import ShapeControls from './ShapeControls.svelte';
  import InkMenu from './InkMenu.svelte';
  import SimilarControls from './SimilarControls.svelte';
  import SnapControls from './SnapControls.svelte';
  import Station from './Station.svelte';
  import { BRUSHING, PAINTING } from '../studio/tools';

  const studio = useStudio();
  const parts = $derived(studio.cast?.mask.parts ?? []);
  /** The brush's controls are in sight whenever it is in the hand. */
  const painting = $derived(PAINTING.includes(studio.tool));
  const refined = $derived(studio.cast && !same(studio.cast.mask.refine, NO_REFINE));
  const HINT_MS = 220;
  const GUESSED = {
    sky: 'calm and blue or bright it is, from the upper rim down',
    subject: 'far its colours stand off from the rim of the photo',
  };
  const views: [Show, string][] = [
    ['now', 'result'],
    ['hatch', 'hatch'],
    ['outline', 'outline'],
    ['matte', 'matte'],
    ['isolate', 'only masked'],
  ];
  const signs: Record<Part['join'], string> = { add: '+', subtract: '−', intersect: '×' };

  function choose(part: Part): void {
    studio.masking.partId = part.id;
    studio.masking.refining = false;
    if (isBrush(part)) studio.tool = 'paint';
    else if (BRUSHING.includes(studio.tool)) studio.tool = 'look';
  }

  let hinting = 0;

  /** Its outline on the photo, once the pointer rests on it. */
  function hint(id: string | null): void {
    clearTimeout(hinting);
    if (id) hinting = window.setTimeout(() => (studio.masking.hintedPart = id), HINT_MS);
    else studio.masking.hintedPart = null;
  }

  function titleOf(part: Part): string {
    const lender = isLent(part) && studio.recipe.casts.findIndex((c) => c.id === part.cast);
    const of = lender === false ? '' : ` ${letterOf(lender)}`;
    return `${part.invert ? 'not ' : ''}${PART_NAMES[part.kind]}${of}`;
  }
</script>

<Station number={2} title="Mask" tight>
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
          class="quiet px-1 whitespace-nowrap text-ink2 max-xl:px-0.5 max-xl:text-small data-[state=on]:bg-ink data-[state=on]:text-inverse"
        >
          {label}
        </ToggleGroup.Item>
      {/each}
    </ToggleGroup.Root>
    <InkMenu />
  {/snippet}
  {#if studio.cast}
    <div class="mb-1 flex flex-wrap items-center gap-1.5">
      {#each parts as part, i (part.id)}
        {#if i}<span class="w-3 text-center" title={part.join}>{signs[part.join]}</span>{/if}
        <button
          class="button"
          class:line-through={!part.on}
          aria-pressed={!studio.masking.refining && studio.masking.part?.id === part.id}
          onclick={() => choose(part)}
          onpointerenter={() => hint(part.id)}
          onpointerleave={() => hint(null)}>{titleOf(part)}</button
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
          aria-pressed={studio.masking.refining}
          title="Clean, grow, draw to edges and soften the whole mask"
          onclick={() => (studio.masking.refining = !studio.masking.refining)}
          >Refine{refined ? ' ●' : ''}</button
        >
      {/if}
      {#if studio.masking.part && !studio.masking.refining}
        <span class="ml-auto flex gap-1.5"><PartControls part={studio.masking.part} /></span>
      {/if}
    </div>
    {#if studio.masking.refining}
      <RefineControls refine={studio.cast.mask.refine} />
    {:else if painting || !studio.masking.part || isBrush(studio.masking.part)}
      <BrushControls />
    {:else if isShape(studio.masking.part)}
      <ShapeControls part={studio.masking.part} />
    {:else if isColourKey(studio.masking.part)}
      <ColourKeyControls part={studio.masking.part} />
    {:else if isSnap(studio.masking.part)}
      <SnapControls part={studio.masking.part} />
    {:else if isSimilar(studio.masking.part)}
      <SimilarControls part={studio.masking.part} />
    {:else if studio.masking.part.kind === 'guess'}
      <p class="text-ink2">
        A guess at the {studio.masking.part.of}, from how {GUESSED[studio.masking.part.of]}. Look at
        it in the matte; a brush or an object adds to it or takes away.
      </p>
    {:else if studio.masking.part.kind === 'lent'}
      <p class="text-ink2">
        The mask of that cast, as it is there: what is changed there changes here as well.
      </p>
    {:else if studio.masking.part.kind === 'whole'}
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
