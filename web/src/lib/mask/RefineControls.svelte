<script lang="ts">
  import type { Refine } from '../api/types';
  import SliderRow from '../controls/SliderRow.svelte';
  import { useStudio } from '../studio/studio.svelte';

  /** What is done to the mask as a whole, after its parts are joined. */
  let { refine }: { refine: Refine } = $props();
  const studio = useStudio();
  const rows: [keyof Refine, string, number][] = [
    ['clean', 'Clean', 0],
    ['grow', 'Grow', -5],
    ['follow', 'Follow edges', 0],
    ['soften', 'Soften', 0],
  ];

  function set(name: keyof Refine, value: number, done: boolean): void {
    studio.changeCast(
      (c) => ({ ...c, mask: { ...c.mask, refine: { ...c.mask.refine, [name]: value / 100 } } }),
      done,
    );
  }
</script>

{#each rows as [name, label, least] (name)}
  <SliderRow
    {label}
    value={refine[name] * 100}
    resting={0}
    {least}
    most={5}
    step={0.05}
    unit=" %"
    fromRest={least < 0}
    onpreview={(v) => set(name, v, false)}
    oncommit={(v) => set(name, v, true)}
  />
{/each}
<p class="mt-1 text-ink2">
  Of the whole mask, in shares of the long edge. Clean takes specks and pinholes away; following
  edges also calms blotches.
</p>
