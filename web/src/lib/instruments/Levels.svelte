<script lang="ts">
  import type { Scopes } from '../api/types';

  /** How much there is of each level, dark to light: now filled, before as a line. */
  let { read }: { read: Scopes } = $props();
  const names = ['Lightness', 'Red', 'Green', 'Blue'];
  const colours = ['var(--ink)', 'lab(52% 62 40)', 'lab(56% -48 40)', 'lab(46% 12 -62)'];

  // Square roots: what is rare is what one looks for.
  const height = (v: number): number => 1 - Math.sqrt(Math.min(v, 1));

  function line(row: number[]): string {
    return row.map((v, i) => `${i ? 'L' : 'M'}${i} ${height(v).toFixed(3)}`).join('');
  }
</script>

<div class="flex flex-col gap-1.5">
  {#each names as name, i (name)}
    {@const now = read.now[i] ?? []}
    <figure>
      <svg
        viewBox="0 -0.03 63 1.06"
        preserveAspectRatio="none"
        class="block w-full bg-field {i ? 'h-[30px]' : 'h-[58px]'}"
        role="img"
        aria-label={name}
      >
        <path d="{line(now)}L63 1L0 1Z" fill={colours[i]} fill-opacity="0.55" />
        <path
          d={line(read.before[i] ?? [])}
          fill="none"
          stroke="var(--ink)"
          stroke-width="1"
          vector-effect="non-scaling-stroke"
        />
      </svg>
      <figcaption class="text-small leading-4 text-ink2">{name}</figcaption>
    </figure>
  {/each}
</div>
