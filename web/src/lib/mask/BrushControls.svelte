<script lang="ts">
  import SliderRow from '../controls/SliderRow.svelte';
  import { withKey } from '../help/commands';
  import { useStudio } from '../studio/studio.svelte';

  const studio = useStudio();

  const sliders = [
    { name: 'size', label: 'Size', resting: 12, least: 0.2, most: 60, step: 0.1 },
    { name: 'feather', label: 'Feather', resting: 60, least: 0, most: 100, step: 1 },
    { name: 'flow', label: 'Flow', resting: 100, least: 1, most: 100, step: 1 },
    { name: 'opacity', label: 'Opacity', resting: 100, least: 1, most: 100, step: 1 },
  ] as const;
</script>

<div class="grid grid-cols-2 gap-x-4">
  {#each sliders as { name, label, resting, least, most, step } (name)}
    <SliderRow
      {label}
      labelWidth={50}
      value={studio.masking.brush[name] * 100}
      {resting}
      {least}
      {most}
      {step}
      unit=" %"
      onpreview={(percent) => (studio.masking.brush[name] = percent / 100)}
      oncommit={(percent) => (studio.masking.brush[name] = percent / 100)}
    />
  {/each}
</div>
<div class="mt-1.5 flex items-center gap-2">
  <span class="joined">
    <button
      class="button"
      title={withKey('Paint the mask', 'paint')}
      aria-pressed={studio.tool === 'paint'}
      onclick={() => (studio.tool = 'paint')}>Paint</button
    >
    <button
      class="button"
      title={withKey('Erase from the mask', 'erase')}
      aria-pressed={studio.tool === 'erase'}
      onclick={() => (studio.tool = 'erase')}>Erase</button
    >
  </span>
  <button
    class="button"
    title="Strokes stop where the photo's colour changes under the brush"
    aria-pressed={studio.masking.brush.edges}
    onclick={() => (studio.masking.brush.edges = !studio.masking.brush.edges)}>Hold at edges</button
  >
  <span class="truncate text-ink2" title="Alt + wheel sizes the brush">Alt erases, Shift: line</span
  >
</div>
