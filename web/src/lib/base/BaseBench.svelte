<script lang="ts">
  import type { Base } from '../api/types';
  import Station from '../controls/Station.svelte';
  import SliderRow from '../controls/SliderRow.svelte';
  import { useStudio } from '../studio/studio.svelte';
  import { RESTING } from './base';

  const studio = useStudio();
  const base = $derived(studio.recipe.base);

  type Setting = Exclude<keyof Base, 'on'>;
  interface Row {
    name: Setting;
    label: string;
    least: number;
    most: number;
    /** Shown value = kept value times this. */
    factor?: number;
    step?: number;
    unit?: string;
  }
  const tone: Row[] = [
    { name: 'exposure', label: 'Exposure', least: -5, most: 5, step: 0.05, unit: ' EV' },
    { name: 'contrast', label: 'Contrast', least: -100, most: 100, factor: 100 },
    { name: 'pivot', label: 'about', least: 15, most: 85, factor: 100 },
    { name: 'highlights', label: 'Highlights', least: -100, most: 100, factor: 100 },
    { name: 'shadows', label: 'Shadows', least: -100, most: 100, factor: 100 },
  ];
  const ends: Row[] = [
    { name: 'black', label: 'Black point', least: -10, most: 40, factor: 100, unit: ' %' },
    { name: 'white', label: 'White point', least: 60, most: 130, factor: 100, unit: ' %' },
    { name: 'saturation', label: 'Saturation', least: -100, most: 100, factor: 100 },
  ];
  // Equal steps of the reciprocal look equal: 100 K matter at 2500 K and not at 9000 K.
  const mired = (kelvin: number): number => -1e6 / kelvin;

  function set(name: Setting, value: number, done: boolean): void {
    studio.changeBase((b) => ({ ...b, [name]: value }), done);
  }
</script>

{#snippet rows(list: Row[])}
  {#each list as { name, label, least, most, factor = 1, step = 1, unit = '' } (name)}
    <SliderRow
      {label}
      labelWidth={78}
      value={base[name] * factor}
      resting={RESTING[name] * factor}
      {least}
      {most}
      {step}
      {unit}
      fromRest
      width={64}
      onpreview={(v) => set(name, v / factor, false)}
      oncommit={(v) => set(name, v / factor, true)}
    />
  {/each}
{/snippet}

<Station number={1} title="Light that fell">
  <SliderRow
    label="Temperature"
    labelWidth={78}
    value={base.temperature}
    resting={RESTING.temperature}
    least={2000}
    most={15000}
    unit=" K"
    fromRest
    width={64}
    toBar={mired}
    fromBar={(position) => -1e6 / position}
    onpreview={(v) => set('temperature', v, false)}
    oncommit={(v) => set('temperature', v, true)}
  />
  <SliderRow
    label="Tint"
    labelWidth={78}
    value={base.tint}
    resting={0}
    least={-50}
    most={50}
    fromRest
    width={64}
    onpreview={(v) => set('tint', v, false)}
    oncommit={(v) => set('tint', v, true)}
  />
  <p class="mt-1 text-small text-ink2">
    The photo is balanced for this light. Tint is its distance from a glowing body in thousandths of
    Duv: green above 0, magenta below.
  </p>
  <button
    class="button mt-2"
    aria-pressed={studio.tool === 'light'}
    onclick={() => studio.toggleTool('light')}>Pick a neutral</button
  >
</Station>
<Station number={2} title="Tone">{@render rows(tone)}</Station>
<Station number={3} title="Ends and colour">{@render rows(ends)}</Station>
<Station number={4} title="Compare">
  <p class="text-ink2">
    The whole photo is set here; casts are found, measured and taken off on it as set. Switch the
    base off to see the photo, and the casts on it, as they came.
  </p>
  <div class="mt-2 flex flex-wrap gap-2">
    <button
      class="button"
      aria-pressed={!base.on}
      onclick={() => studio.changeBase((b) => ({ ...b, on: !b.on }))}
      >{base.on ? 'Switch off' : 'Switched off'}</button
    >
    <button class="button" onclick={() => studio.changeBase(() => RESTING)}>As it came</button>
  </div>
</Station>
