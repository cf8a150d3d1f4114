<script lang="ts">
  import type { Feature, PersonPart } from '../api/types';
  import SliderRow from '../controls/SliderRow.svelte';
  import { isPerson } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import { FEATURES } from './features';

  /** What of whom is masked; of skin, from where on it is sure. */
  let { part }: { part: PersonPart } = $props();
  const studio = useStudio();
  const names = Object.entries(FEATURES) as [Feature, string][];
  const faces = $derived(studio.people.faces ?? []);
  void studio.attempt(async () => void (await studio.people.look()));

  const LEAST = 0.02; // between a little and fully

  function setSure(least: number, full: number, done: boolean): void {
    const sure: [number, number] = [least, full];
    studio.masking.changePart((p) => (isPerson(p) ? { ...p, sure } : p), done);
  }

  /** The two ends push each other along. */
  const ends = $derived([
    {
      label: 'A little from',
      value: part.sure[0],
      resting: part.of === 'skin' ? 0.35 : 0,
      least: 0,
      most: 0.97,
      set: (v: number, done: boolean) => setSure(v, Math.max(part.sure[1], v + LEAST), done),
    },
    {
      label: 'Fully from',
      value: part.sure[1],
      resting: part.of === 'skin' ? 0.65 : 1,
      least: 0.03,
      most: 1,
      set: (v: number, done: boolean) => setSure(Math.min(part.sure[0], v - LEAST), v, done),
    },
  ]);
</script>

<div class="flex flex-wrap items-center gap-1.5">
  <select
    class="field"
    aria-label="What of a person"
    value={part.of}
    onchange={(event) =>
      void studio.people.change(event.currentTarget.value as Feature, part.who ?? null)}
  >
    {#each names as [of, name] (of)}<option value={of}>{name}</option>{/each}
  </select>
  <select
    class="field"
    aria-label="Whose"
    value={part.who ?? 0}
    onchange={(event) =>
      void studio.people.change(part.of, Number(event.currentTarget.value) || null)}
  >
    <option value={0}>of all</option>
    {#each faces as { who } (who)}<option value={who}>of {who}, from the left</option>{/each}
  </select>
  {#if faces.length > 1}
    <button
      class="button"
      aria-pressed={studio.tool === 'who'}
      onclick={() => studio.toggleTool('who')}>Click whose</button
    >
  {/if}
</div>
{#if part.of === 'skin' || part.of === 'person'}
  {#each ends as { label, value, resting, least, most, set } (label)}
    <SliderRow
      {label}
      value={value * 100}
      resting={resting * 100}
      least={least * 100}
      most={most * 100}
      step={1}
      unit=" %"
      onpreview={(v) => set(v / 100, false)}
      oncommit={(v) => set(v / 100, true)}
    />
  {/each}
{/if}
{#if part.of === 'skin' || part.of === 'person' || part.of === 'face'}
  <button
    class="quiet mt-1"
    title="Two parts that take lips and eyes away from this mask"
    onclick={() => void studio.people.keepFeatures()}>Keep lips and eyes</button
  >
{/if}
