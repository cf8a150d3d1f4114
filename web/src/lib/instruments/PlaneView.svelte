<script lang="ts">
  import type { ScopePlane, Vector } from '../api/types';

  /** Colours now, filled with themselves; colours before, as an outline; marks on top. */
  interface Props {
    plane: ScopePlane | undefined;
    label: string;
    round?: boolean;
    /** Angles in degrees, anticlockwise from the right: a line, and a range around it. */
    line?: number;
    range?: Vector;
    dots?: { id: string; number: number | null; before: Vector; now: Vector }[];
  }
  let { plane, label, round = false, line, range, dots = [] }: Props = $props();

  const outline = $derived(
    (plane?.outline ?? [])
      .map((points) => `M${points.map(([x, y]) => `${x} ${-y}`).join('L')}Z`)
      .join(''),
  );
  const at = (degrees: number, r = 1): string => {
    const turn = (degrees * Math.PI) / 180;
    return `${r * Math.cos(turn)} ${-r * Math.sin(turn)}`;
  };
</script>

<div class="relative aspect-square w-full overflow-hidden" class:round>
  <svg viewBox="-1 -1 2 2" class="absolute inset-0 h-full w-full" aria-hidden="true">
    <rect x="-1" y="-1" width="2" height="2" class="ground" />
    {#if range}
      <path d="M0 0L{at(range[0], 1.5)}L{at(range[1], 1.5)}Z" class="range" />
    {/if}
  </svg>
  {#if plane}
    <img src={plane.picture} alt={label} class="absolute inset-0 h-full w-full" draggable="false" />
  {/if}
  <svg viewBox="-1 -1 2 2" class="absolute inset-0 h-full w-full" aria-hidden="true">
    <path d="M-1 0H1M0 -1V1" class="axis" />
    {#if line !== undefined}<path d="M0 0L{at(line)}" class="line" />{/if}
    <path d={outline} class="earlier" />
    {#each dots as dot (dot.id)}
      <path d="M{dot.before[0]} {-dot.before[1]}L{dot.now[0]} {-dot.now[1]}" class="earlier" />
      <circle cx={dot.before[0]} cy={-dot.before[1]} r="0.045" class="hollow" />
      <circle cx={dot.now[0]} cy={-dot.now[1]} r="0.045" class="filled" />
    {/each}
  </svg>
</div>

<style>
  .round {
    border-radius: 50%;
  }
  .ground {
    fill: var(--field);
  }
  .range {
    fill: var(--faint);
    opacity: 0.7;
  }
  .axis {
    stroke: var(--line);
    stroke-width: 0.012;
  }
  .line {
    stroke: var(--ink);
    stroke-width: 0.014;
  }
  .earlier {
    fill: none;
    stroke: var(--ink);
    stroke-width: 0.018;
    stroke-linejoin: round;
  }
  .hollow {
    fill: var(--field);
    stroke: var(--ink);
    stroke-width: 0.022;
  }
  .filled {
    fill: var(--ink);
  }
</style>
