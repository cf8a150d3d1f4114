<script lang="ts">
  import type { Similar } from '../api/types';
  import SliderRow from '../controls/SliderRow.svelte';
  import { isSimilar } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';

  let { part }: { part: Similar } = $props();
  const studio = useStudio();
  const count = $derived(part.seeds.length);

  function set(change: Partial<Similar>, done: boolean): void {
    studio.masking.changePart((p) => (isSimilar(p) ? { ...p, ...change } : p), done);
  }
</script>

<SliderRow
  label="Tolerance"
  value={part.tolerance}
  resting={14}
  least={0.5}
  most={60}
  step={0.5}
  onpreview={(tolerance) => set({ tolerance }, false)}
  oncommit={(tolerance) => set({ tolerance }, true)}
/>
<SliderRow
  label="Fade"
  value={part.fade * 100}
  resting={50}
  least={0}
  most={100}
  step={1}
  unit=" %"
  onpreview={(v) => set({ fade: v / 100 }, false)}
  oncommit={(v) => set({ fade: v / 100 }, true)}
/>
<div class="mt-1.5 flex items-center gap-2">
  <button
    class="button"
    aria-pressed={studio.tool === 'similar'}
    onclick={() => studio.toggleTool('similar')}>Add places</button
  >
  <button
    class="button"
    disabled={count < 2}
    onclick={() => set({ seeds: part.seeds.slice(0, -1) }, true)}>Forget the last</button
  >
  <span class="truncate text-ink2"
    >{count} {count === 1 ? 'place' : 'places'}; with Shift, one more.</span
  >
</div>
