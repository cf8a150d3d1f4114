<script lang="ts">
  import type { Vector } from '../api/types';
  import { onDial } from './dial';

  /** Centre = neutral, a* to the right, b* up. Hollow dot: the colour before; filled: now. Alone, the hollow
   * dot is a cast that is possible and not treated. */
  interface Props {
    before: Vector | null;
    after: Vector | null;
    size?: number;
  }
  let { before, after, size = 52 }: Props = $props();

  const R = 22;
  const ticks: [number, number, string][] = [
    [1, 0, 'lab(58% 55 8)'],
    [0, -1, 'lab(74% 4 60)'],
    [-1, 0, 'lab(62% -48 14)'],
    [0, 1, 'lab(56% 2 -50)'],
  ];
  const from = $derived(before && onDial(before, R));
  const to = $derived(after && onDial(after, R));
  const label = $derived.by(() => {
    if (!before) return 'No cast measured yet';
    const was = Math.hypot(...before).toFixed(1);
    return after
      ? `Cast from ${was} to ${Math.hypot(...after).toFixed(1)} off neutral`
      : `Possible cast, ${was} off neutral`;
  });
</script>

<svg width={size} height={size} viewBox="-26 -26 52 52" role="img" aria-label={label}>
  <circle r={R} fill="none" stroke="currentColor" stroke-opacity="0.45" />
  <path d="M-22 0H22M0 -22V22" stroke="currentColor" stroke-opacity="0.25" />
  {#each ticks as [x, y, colour] (colour)}
    <path
      d="M{x * (R - 2)} {y * (R - 2)}L{x * (R + 3)} {y * (R + 3)}"
      stroke={colour}
      stroke-width="2.5"
    />
  {/each}
  {#if from}
    {#if to}
      <path d="M{from.x} {from.y}L{to.x} {to.y}" stroke="currentColor" stroke-width="1.6" />
    {/if}
    <circle
      cx={from.x}
      cy={from.y}
      r="3.6"
      class="hollow"
      stroke="currentColor"
      stroke-width="1.8"
    />
    {#if to}<circle cx={to.x} cy={to.y} r="4" fill="currentColor" />{/if}
  {/if}
</svg>

<style>
  .hollow {
    fill: var(--dial-ground, var(--panel));
  }
</style>
