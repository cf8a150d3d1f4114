<script lang="ts">
  import { ToggleGroup } from 'bits-ui';
  import type { Part, Show } from '../api/types';
  import { NO_REFINE, same } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import AddPart from './AddPart.svelte';
  import BrushControls from './BrushControls.svelte';
  import PartControls from './PartControls.svelte';
  import RefineControls from './RefineControls.svelte';
  import InkMenu from './InkMenu.svelte';
  import Station from '../controls/Station.svelte';
  import { BRUSHING, PAINTING } from '../studio/tools';
  import { descriptorOf, titleOf } from './descriptors';
  import { shareText } from '../proof/share';

  const studio = useStudio();
  const parts = $derived(studio.cast?.mask.parts ?? []);
  const chosen = $derived(studio.masking.part);
  const descriptor = $derived(chosen && descriptorOf(chosen));
  /** The brush's controls are in sight whenever it is in the hand. */
  const painting = $derived(PAINTING.includes(studio.tool));
  const refined = $derived(studio.cast && !same(studio.cast.mask.refine, NO_REFINE));
  const signs: Record<Part['join'], string> = { add: '+', subtract: '−', intersect: '×' };
  const lines = $derived.by(() => {
    if (!parts.length) return ['nothing masked'];
    const names = parts.map(
      (p, i) => `${i ? `${signs[p.join]} ` : ''}${titleOf(p, studio.recipe)}`,
    );
    const area = studio.castProof?.area;
    const told = [names.join(' ').toLowerCase()];
    if (refined) told.push('refined');
    if (area !== undefined) told.push(`${shareText(area)} of the photo`);
    return told;
  });
  const HINT_MS = 220;
  const views: [Show, string][] = [
    ['now', 'result'],
    ['hatch', 'hatch'],
    ['outline', 'outline'],
    ['matte', 'matte'],
    ['isolate', 'only masked'],
  ];

  function choose(part: Part): void {
    studio.masking.partId = part.id;
    studio.masking.refining = false;
    const { tool } = descriptorOf(part);
    if (tool) studio.tool = tool;
    else if (BRUSHING.includes(studio.tool)) studio.tool = 'look';
  }

  let hinting = 0;

  /** Its outline on the photo, once the pointer rests on it. */
  function hint(id: string | null): void {
    clearTimeout(hinting);
    if (id) hinting = window.setTimeout(() => (studio.masking.hintedPart = id), HINT_MS);
    else studio.masking.hintedPart = null;
  }
</script>

<Station number={2} title="Mask" name="mask" {lines}>
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
          aria-pressed={!studio.masking.refining && chosen?.id === part.id}
          onclick={() => choose(part)}
          onpointerenter={() => hint(part.id)}
          onpointerleave={() => hint(null)}>{titleOf(part, studio.recipe)}</button
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
      {#if chosen && !studio.masking.refining}
        <span class="ml-auto flex gap-1.5"><PartControls part={chosen} /></span>
      {/if}
    </div>
    {#if studio.masking.refining}
      <RefineControls refine={studio.cast.mask.refine} />
    {:else if painting || !chosen || !descriptor}
      <BrushControls />
    {:else if descriptor.controls}
      {@const Controls = descriptor.controls}
      <Controls part={chosen} />
    {:else}
      <p class="text-ink2">{descriptor.note?.(chosen)}</p>
    {/if}
  {:else}
    <p class="text-ink2">A mask belongs to a cast; nothing outside it will move.</p>
  {/if}
</Station>
