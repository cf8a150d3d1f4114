<script lang="ts">
  import { ToggleGroup } from 'bits-ui';
  import type { Vector } from '../api/types';
  import { numberOf } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import Levels from './Levels.svelte';
  import PairsDial from './PairsDial.svelte';
  import PlaneView from './PlaneView.svelte';
  import type { Area, Instrument, Zoom } from './scopes.svelte';
  import SkinCheck from './SkinCheck.svelte';

  const studio = useStudio();
  const scopes = studio.scopes;
  const read = $derived(scopes.read);
  const AB_RANGE = 100;

  const instruments: [Instrument, string, string][] = [
    ['scope', 'Scope', 'Vectorscope'],
    ['ab', 'a–b', 'CIELAB a*, b*'],
    ['levels', 'Levels', 'Histogram'],
    ['pairs', 'Pairs', 'Samples off their references'],
  ];
  const areas: [Area, string][] = [
    ['photo', 'photo'],
    ['mask', 'mask'],
    ['box', 'box'],
  ];
  const zooms: Zoom[] = [1, 2, 4];

  const dots = $derived(
    (studio.castProof?.pairs ?? []).map((pair) => ({
      id: pair.id,
      number: studio.cast
        ? numberOf(studio.cast, studio.cast.pairs.find((p) => p.id === pair.id)?.tainted)
        : null,
      before: onPlane(pair.is_before.lab),
      now: onPlane(pair.is_now.lab),
    })),
  );

  function onPlane(lab: readonly number[]): Vector {
    const bounded = (v = 0): number =>
      Math.min(Math.max((v / AB_RANGE) * scopes.zoom, -0.97), 0.97);
    return [bounded(lab[1]), bounded(lab[2])];
  }

  $effect(() => {
    if (scopes.instrument !== 'pairs') scopes.want(studio.recipe, studio.castId);
  });

  function choose(area: Area): void {
    scopes.area = area;
    studio.tool = area === 'box' ? 'box' : studio.tool === 'box' ? 'look' : studio.tool;
  }
</script>

<section class="flex flex-col gap-2" aria-label="Scopes">
  <ToggleGroup.Root
    type="single"
    value={scopes.instrument}
    onValueChange={(value) => (scopes.instrument = (value || 'scope') as Instrument)}
    class="joined"
    aria-label="Instrument"
  >
    {#each instruments as [value, label, title] (value)}
      <ToggleGroup.Item {value} {title} class="button flex-1 px-1">{label}</ToggleGroup.Item>
    {/each}
  </ToggleGroup.Root>
  {#if scopes.instrument === 'pairs'}
    <PairsDial />
  {:else}
    <div class="flex items-center justify-between text-small">
      <span role="radiogroup" aria-label="What is read" class="flex">
        {#each areas as [area, label] (area)}
          <button
            class="quiet px-1 aria-checked:bg-ink aria-checked:text-inverse disabled:opacity-50"
            role="radio"
            aria-checked={scopes.areaFor(studio.castId) === area}
            disabled={area === 'mask' && !studio.cast}
            title={area === 'box' ? 'Drag a rectangle on the photo' : undefined}
            onclick={() => choose(area)}>{label}</button
          >
        {/each}
      </span>
      {#if scopes.instrument !== 'levels'}
        <span role="radiogroup" aria-label="Zoom" class="flex">
          {#each zooms as zoom (zoom)}
            <button
              class="quiet min-w-[22px] px-0 aria-checked:bg-ink aria-checked:text-inverse"
              role="radio"
              aria-checked={scopes.zoom === zoom}
              onclick={() => (scopes.zoom = zoom)}>×{zoom}</button
            >
          {/each}
        </span>
      {/if}
    </div>
    <div data-testid="scope">
      {#if scopes.instrument === 'levels'}
        {#if read}<Levels {read} />{/if}
      {:else if scopes.instrument === 'scope'}
        <PlaneView
          plane={read?.vectorscope}
          label="Vectorscope: colours now, and before as an outline"
          round
          line={read?.skin_line}
          range={read?.skin_range}
        />
      {:else}
        <PlaneView
          plane={read?.ab}
          label="a-b plane: colours now, and before as an outline"
          {dots}
        />
      {/if}
    </div>
    {#if read?.empty}<p class="text-small text-ink2">Nothing lies in this area.</p>{/if}
    {#if scopes.instrument === 'scope' && read}<SkinCheck {read} />{/if}
  {/if}
</section>
