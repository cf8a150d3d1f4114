<script lang="ts">
  import type { Remedy } from '../api/types';
  import SliderRow from '../controls/SliderRow.svelte';
  import { useStudio } from '../studio/studio.svelte';
  import Station from './Station.svelte';

  const studio = useStudio();

  function set(id: string, change: Partial<Remedy>, done: boolean): void {
    studio.changeCast(
      (cast) => ({
        ...cast,
        remedies: cast.remedies.map((r) => (r.id === id ? { ...r, ...change } : r)),
      }),
      done,
    );
  }

  const sliders: { name: 'amount' | 'follow' | 'hold_lightness'; label: string; most: number }[] = [
    { name: 'amount', label: 'Amount', most: 150 },
    { name: 'follow', label: 'Follow taint', most: 100 },
    { name: 'hold_lightness', label: 'Hold lightness', most: 100 },
  ];
</script>

<Station number={3} title="Remedy">
  {#snippet aside()}<span class="text-ink2">Neutralise</span>{/snippet}
  {#each studio.cast?.remedies ?? [] as remedy (remedy.id)}
    {#each sliders as { name, label, most } (name)}
      <SliderRow
        {label}
        labelWidth={88}
        value={remedy[name] * 100}
        resting={100}
        least={0}
        {most}
        unit=" %"
        onpreview={(v) => set(remedy.id, { [name]: v / 100 }, false)}
        oncommit={(v) => set(remedy.id, { [name]: v / 100 }, true)}
      />
    {/each}
    <button
      class="button mt-2"
      aria-pressed={!remedy.on}
      onclick={() => set(remedy.id, { on: !remedy.on }, true)}
    >
      {remedy.on ? 'Switch off' : 'Switched off'}
    </button>
  {:else}
    <p class="text-ink2">The cast is taken off here, as much of it as each place carries.</p>
  {/each}
</Station>
