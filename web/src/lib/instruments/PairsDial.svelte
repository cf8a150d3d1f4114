<script lang="ts">
  import type { PairProof, Vector } from '../api/types';
  import { onDial, RING } from '../dial/dial';
  import { numberOf } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';

  /** The dial writ large: every pair's sample relative to its reference, which is the centre. */
  const studio = useStudio();
  const R = 84;

  function off(pair: PairProof, which: 'is_before' | 'is_now'): Vector | null {
    if (!pair.should_be) return null;
    const [, a, b] = pair[which].lab;
    return [a - pair.should_be.lab[1], b - pair.should_be.lab[2]];
  }

  const dots = $derived(
    (studio.castProof?.pairs ?? []).flatMap((pair) => {
      const before = off(pair, 'is_before');
      const now = off(pair, 'is_now');
      const sample = studio.cast?.pairs.find((p) => p.id === pair.id)?.tainted;
      if (!before || !now || !studio.cast) return [];
      const number = numberOf(studio.cast, sample);
      return [{ id: pair.id, number, from: onDial(before, R), to: onDial(now, R) }];
    }),
  );
  const names: [string, number, number][] = [
    ['red', 1, 0],
    ['yellow', 0, -1],
    ['green', -1, 0],
    ['blue', 0, 1],
  ];
</script>

<svg
  viewBox="-92 -92 184 184"
  class="w-full"
  role="img"
  aria-label="Samples relative to their references"
>
  <circle r={R} fill="var(--field)" stroke="var(--line)" />
  <circle r={R / 2} fill="none" stroke="var(--line)" stroke-dasharray="2 3" />
  <path d="M{-R} 0H{R}M0 {-R}V{R}" stroke="var(--line)" />
  {#each names as [name, x, y] (name)}
    <text
      x={x * (R - 6)}
      y={y * (R - 10) + 4 + (x ? -7 : 0)}
      text-anchor={x > 0 ? 'end' : x < 0 ? 'start' : 'middle'}
      class="name">{name}</text
    >
  {/each}
  <text x={R / 2 + 3} y="11" class="name">{RING / 2}</text>
  {#each dots as dot (dot.id)}
    <path
      d="M{dot.from.x} {dot.from.y}L{dot.to.x} {dot.to.y}"
      stroke="var(--ink)"
      stroke-width="1.6"
    />
    <circle
      cx={dot.from.x}
      cy={dot.from.y}
      r="4.5"
      fill="var(--field)"
      stroke="var(--ink)"
      stroke-width="1.8"
    />
    <circle cx={dot.to.x} cy={dot.to.y} r="4.5" fill="var(--ink)" />
    <text x={dot.from.x + 8} y={dot.from.y - 5} class="number">{dot.number}</text>
  {/each}
</svg>

<style>
  .name {
    font-size: 10px;
    fill: var(--ink2);
  }
  .number {
    font-size: 11px;
    font-weight: 650;
    fill: var(--ink);
  }
</style>
