<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { Sample, WashStroke } from '../api/types';
  import NumberField from '../controls/NumberField.svelte';
  import WordChoice from '../controls/WordChoice.svelte';
  import SliderRow from '../controls/SliderRow.svelte';
  import { keyOf, shownKey } from '../help/commands';
  import AimColour from '../remedy/AimColour.svelte';
  import { useStudio } from '../studio/studio.svelte';
  import { tonesOf } from './tones.svelte';
  import { middleOf, type Purpose } from './washing.svelte';

  /** The brush of a wash, what it paints with, and the strokes that there are. */
  let { settings }: { settings: Snippet } = $props();
  const studio = useStudio();
  const { washing } = studio;
  const strokes = $derived([...(washing.wash?.strokes ?? [])].reverse());
  const tones = tonesOf(studio);

  const sliders = [
    { name: 'opacity', label: 'Strength', resting: 10, least: 1, most: 100, step: 1 },
    { name: 'size', label: 'Size', resting: 8, least: 0.2, most: 60, step: 0.1 },
    { name: 'feather', label: 'Feather', resting: 80, least: 0, most: 100, step: 1 },
    { name: 'flow', label: 'Flow', resting: 100, least: 1, most: 100, step: 1 },
  ] as const;
  const reaches = (['all', 'shadows', 'mids', 'lights'] as const).map((r) => [r, r] as const);

  function told({ tone, stops, erase, reach }: WashStroke): string {
    if (erase) return 'erased';
    if (tone) return 'tone';
    const way = stops >= 0 ? 'lighter' : 'darker';
    return `${way} ${Math.abs(stops).toFixed(2)} EV${reach === 'all' ? '' : `, ${reach}`}`;
  }

  const give = (id: string, tone: Sample['rgb'] | null): void =>
    washing.change(id, (s) => ({ ...s, tone, stops: 0, reach: 'all' }));
</script>

<div class="mb-1 flex flex-wrap items-center gap-2">
  <span class="joined">
    <button
      class="button"
      aria-pressed={studio.tool === 'wash'}
      onclick={() => studio.toggleTool('wash')}>Wash on</button
    >
    <button
      class="button"
      aria-pressed={studio.tool === 'unwash'}
      title="Take away what was washed on; Alt does the same"
      onclick={() => studio.toggleTool('unwash')}>Wash off</button
    >
  </span>
  <WordChoice
    label="What a stroke does"
    value={washing.purpose}
    words={[
      ['tone', 'towards a tone'],
      ['light', 'lighter or darker'],
    ]}
    onchange={(purpose: Purpose) => (washing.purpose = purpose)}
  />
  <button
    class="button"
    title="Strokes stop where the photo's colour changes under the brush"
    aria-pressed={washing.brush.edges}
    onclick={() => (washing.brush.edges = !washing.brush.edges)}>Hold at edges</button
  >
</div>
<div class="grid grid-cols-[repeat(auto-fit,minmax(230px,1fr))] gap-x-5">
  <div>
    {@render settings()}
    {#each sliders as { name, label, resting, least, most, step } (name)}
      <SliderRow
        {label}
        labelWidth={88}
        value={washing.brush[name] * 100}
        {resting}
        {least}
        {most}
        {step}
        unit=" %"
        onpreview={(percent) => (washing.brush[name] = percent / 100)}
        oncommit={(percent) => (washing.brush[name] = percent / 100)}
      />
    {/each}
  </div>
  <div>
    {#if washing.purpose === 'tone'}
      <AimColour label="Tone" rgb={washing.tone} tool="tone" />
      <p class="mt-1 text-ink2">
        {shownKey(keyOf('pick-tone'))} held and a click takes a tone. Digits set the strength.
      </p>
    {:else}
      <SliderRow
        label="By"
        labelWidth={88}
        value={washing.stops}
        resting={0.3}
        least={-3}
        most={3}
        step={0.05}
        unit=" EV"
        fromRest
        onpreview={(stops) => (washing.stops = stops)}
        oncommit={(stops) => (washing.stops = stops)}
      />
      <WordChoice
        label="Of which tones"
        value={washing.reach}
        words={reaches}
        onchange={(reach: WashStroke['reach']) => (washing.reach = reach)}
      />
    {/if}
    <h3 class="mt-1 font-semibold">
      {strokes.length}
      {strokes.length === 1 ? 'stroke' : 'strokes'}
    </h3>
    <ul class="max-h-[112px] overflow-y-auto" aria-label="Strokes">
      {#each strokes as stroke, i (stroke.id)}
        {@const number = strokes.length - i}
        <li
          class="flex items-center gap-1.5"
          onpointerenter={() => (studio.marked = { at: middleOf(stroke), text: `${number}` })}
          onpointerleave={() => (studio.marked = null)}
        >
          <span class="w-5 text-right text-ink2">{number}</span>
          {#if stroke.tone}
            <button
              class="h-[18px] w-7"
              style:background={tones.of(stroke.tone)}
              aria-label="Give stroke {number} the tone in hand"
              title="Give it the tone in hand"
              disabled={!washing.tone}
              onclick={() => give(stroke.id, washing.tone)}
            ></button>
          {/if}
          <span class="min-w-0 flex-1 truncate text-ink2">{told(stroke)}</span>
          <NumberField
            label="Strength of stroke {number}"
            value={stroke.opacity * 100}
            least={0}
            most={100}
            step={1}
            unit=" %"
            width={52}
            onchange={(percent) =>
              washing.change(stroke.id, (s) => ({ ...s, opacity: percent / 100 }))}
          />
          <button
            class="quiet"
            aria-label="Remove stroke {number}"
            onclick={() => washing.remove(stroke.id)}>×</button
          >
        </li>
      {/each}
    </ul>
  </div>
</div>
