<script lang="ts">
  import type { Agreeing } from './agreeing.svelte';

  /** How far each photo is off, in the order of the set: hollow untreated, filled now, a line between. */
  interface Props {
    agreeing: Agreeing;
    hovered: number | null;
  }
  let { agreeing, hovered = $bindable() }: Props = $props();
  let width = $state(600);
  const HIGH = 150;
  const [LEFT, RIGHT, TOP, BOTTOM] = [40, 14, 12, 22];
  const R = 4;

  const rows = $derived(
    agreeing.photos.map((photo, i) => ({ photo, i, row: agreeing.standings.get(photo.id) })),
  );
  const most = $derived(
    Math.max(
      6,
      ...rows.flatMap(({ row }) => [row?.before?.distance ?? 0, row?.now?.distance ?? 0]),
    ),
  );
  const ticks = $derived(
    [0, 1, 2, 3].map((i) => Math.ceil(most / 3) * i).filter((v) => v <= most * 1.1),
  );
  const x = (i: number): number =>
    LEFT + R + (width - LEFT - RIGHT - 2 * R) * (rows.length > 1 ? i / (rows.length - 1) : 0.5);
  const y = (v: number): number => HIGH - BOTTOM - ((HIGH - TOP - BOTTOM) * v) / (most * 1.1);
</script>

<div class="border-b border-line px-2" bind:clientWidth={width}>
  <svg
    {width}
    height={HIGH}
    role="img"
    aria-label="Distance from the chosen colour, photo by photo"
  >
    {#each ticks as tick (tick)}
      <path d="M{LEFT} {y(tick)}H{width - RIGHT}" stroke="var(--line)" stroke-width="1" />
      <text x={LEFT - 8} y={y(tick) + 4} text-anchor="end" font-size="12" fill="var(--ink2)"
        >{tick}</text
      >
    {/each}
    {#each rows as { photo, i, row } (photo.id)}
      {#if row?.before && row.now}
        <!-- svelte-ignore a11y_no_static_element_interactions -->
        <g
          onpointerenter={() => (hovered = photo.id)}
          onpointerleave={() => (hovered = null)}
          stroke="var(--ink)"
          stroke-width={hovered === photo.id ? 2.5 : 1.5}
        >
          <title
            >{photo.title}: {row.before.distance.toFixed(1)} → {row.now.distance.toFixed(1)}</title
          >
          <path d="M{x(i)} {TOP}V{HIGH - BOTTOM}" stroke="transparent" stroke-width="12" />
          <path d="M{x(i)} {y(row.before.distance)}V{y(row.now.distance)}" />
          <rect
            x={x(i) - R}
            y={y(row.before.distance) - R}
            width={2 * R}
            height={2 * R}
            fill="var(--panel)"
          />
          <rect
            x={x(i) - R}
            y={y(row.now.distance) - R}
            width={2 * R}
            height={2 * R}
            fill="var(--ink)"
          />
        </g>
      {:else}
        <text x={x(i)} y={HIGH - BOTTOM - 4} text-anchor="middle" font-size="12" fill="var(--ink2)"
          >–<title>{photo.title}: not found</title></text
        >
      {/if}
    {/each}
    <text x={LEFT} y={HIGH - 5} font-size="12" fill="var(--ink2)">the set, photo by photo</text>
    <text x={width - RIGHT} y={HIGH - 5} text-anchor="end" font-size="12" fill="var(--ink2)"
      >hollow untreated, filled now; ΔE2000 as light as each other</text
    >
  </svg>
</div>
