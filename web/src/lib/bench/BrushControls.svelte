<script lang="ts">
  import SliderRow from '../controls/SliderRow.svelte';
  import { useStudio } from '../studio/studio.svelte';

  const studio = useStudio();
  const hint = $derived(
    studio.tool === 'paint' || studio.tool === 'erase'
      ? 'Paint loosely. Alt erases; Alt and wheel sizes.'
      : '',
  );
</script>

<SliderRow
  label="Size"
  value={studio.brush.size * 100}
  resting={12}
  least={0.2}
  most={60}
  step={0.1}
  unit=" %"
  onpreview={(v) => (studio.brush.size = v / 100)}
  oncommit={(v) => (studio.brush.size = v / 100)}
/>
<SliderRow
  label="Feather"
  value={studio.brush.feather * 100}
  resting={60}
  least={0}
  most={100}
  unit=" %"
  onpreview={(v) => (studio.brush.feather = v / 100)}
  oncommit={(v) => (studio.brush.feather = v / 100)}
/>
<SliderRow
  label="Flow"
  value={studio.brush.flow * 100}
  resting={100}
  least={1}
  most={100}
  unit=" %"
  onpreview={(v) => (studio.brush.flow = v / 100)}
  oncommit={(v) => (studio.brush.flow = v / 100)}
/>
<div class="mt-1.5 flex items-center gap-3">
  <span class="joined">
    <button
      class="button"
      title="Paint the mask (P)"
      aria-pressed={studio.tool === 'paint'}
      onclick={() => (studio.tool = 'paint')}>Paint</button
    >
    <button
      class="button"
      title="Erase from the mask (X)"
      aria-pressed={studio.tool === 'erase'}
      onclick={() => (studio.tool = 'erase')}>Erase</button
    >
  </span>
  <span class="truncate text-ink2">{hint}</span>
</div>
