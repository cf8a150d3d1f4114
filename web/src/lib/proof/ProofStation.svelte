<script lang="ts">
  import type { Figure } from '../api/types';
  import FigureRow from './FigureRow.svelte';
  import SheetsMenu from './SheetsMenu.svelte';
  import { useStudio } from '../studio/studio.svelte';
  import Concerns from './Concerns.svelte';
  import MovedFeatures from '../people/MovedFeatures.svelte';
  import Station from '../controls/Station.svelte';

  const studio = useStudio();
  const { proving } = studio;
  const cast = $derived(studio.castProof);
  const rows = $derived.by(() => {
    const ofCast = studio.castId ? (proving.figures?.casts[studio.castId] ?? []) : [];
    const all: [Figure, string | null][] = [
      ...ofCast.map((f): [Figure, string | null] => [f, studio.castId]),
      ...(proving.figures?.photo ?? []).map((f): [Figure, string | null] => [f, null]),
    ];
    return all.filter(([figure]) => figure.brief);
  });
  /** What a figure is called where there is room for a word or two. */
  const SHORT: Partial<Record<Figure['key'], string>> = {
    distance: 'to reference',
    lightness: 'lightness by',
    outside: 'outside',
  };
  const concerns = $derived(cast?.concerns.length ?? 0);
  const lines = $derived.by(() => {
    const told = rows.flatMap(([{ key, now }]) =>
      SHORT[key] ? `${SHORT[key]} ${Math.abs(now).toFixed(1)}` : [],
    );
    return concerns ? told : [...told, 'nothing overdone'];
  });
  const kept = $derived.by(() => {
    if (!cast?.guards.length) return undefined;
    const most = Math.max(...cast.guards.map((g) => g.moved));
    return `${cast.guards.every((g) => g.held) ? 'held' : 'moved'}, ${most.toFixed(1)}`;
  });
</script>

<Station
  number={4}
  title="Proof"
  name="proof"
  {lines}
  attention={concerns ? `${concerns} to look at` : undefined}
>
  {#snippet aside()}
    <button
      class="quiet whitespace-nowrap text-ink2 aria-pressed:bg-ink aria-pressed:text-inverse"
      aria-pressed={proving.open}
      onclick={() => (proving.open = !proving.open)}>All figures</button
    >
    <SheetsMenu />
  {/snippet}
  <MovedFeatures />
  {#if cast?.concerns.length}<Concerns concerns={cast.concerns} />{/if}
  {#if !proving.figures}<p class="text-ink2" role="status">Working the figures out.</p>{/if}
  <table class="w-full max-xl:text-small" data-testid="proof">
    <tbody>
      {#each rows as [figure, owner] (figure.name)}
        <FigureRow {figure} cast={owner} whole value={figure.key === 'kept' ? kept : undefined} />
      {/each}
    </tbody>
  </table>
</Station>
