<script lang="ts">
  import type { Vector } from '../api/types';
  import { letterOf, markedSamples } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import type { Stage } from './stage.svelte';
  import type { Point } from './viewport';

  /** Flat tags beside the spot, joined to it by a short line; the spot itself stays clear. */
  let { stage }: { stage: Stage } = $props();
  const studio = useStudio();

  const OUT = 26;
  const FREE = 5;
  const TOP = 12; // below the bar, or a mask that reaches the upper edge would lose its letter

  interface Tag {
    key: string;
    label: string;
    kind: 'cast' | 'tainted' | 'reference' | 'keep';
    spot: Point;
    at: Point;
    from: Point;
  }

  function tag(label: string, kind: Tag['kind'], place: Vector, way: Vector): Tag {
    const spot = stage.toScreen(place);
    return {
      key: `${kind}-${label}`,
      label,
      kind,
      spot,
      at: { x: spot.x + way[0] * OUT, y: Math.max(spot.y + way[1] * OUT, TOP) },
      from: { x: spot.x + way[0] * FREE, y: spot.y + way[1] * FREE },
    };
  }

  const tags = $derived.by(() => {
    const made: Tag[] = [];
    studio.recipe.casts.forEach((cast, i) => {
      const edge = studio.proof?.casts.find((c) => c.id === cast.id)?.edge;
      if (edge) made.push(tag(letterOf(i), 'cast', edge, [0, -0.75]));
    });
    if (studio.cast && !studio.finder.shown)
      for (const m of markedSamples(studio.cast))
        if (m.sample.at) {
          const left = m.kind === 'tainted' ? -0.8 : 0.8;
          made.push(tag(String(m.number), m.kind, m.sample.at, [left, -0.6]));
        }
    return made;
  });
</script>

<svg class="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true">
  {#each tags as t (t.key)}
    <path d="M{t.from.x} {t.from.y}L{t.at.x} {t.at.y}" stroke="#161616" stroke-width="2.6" />
    <path d="M{t.from.x} {t.from.y}L{t.at.x} {t.at.y}" stroke="#f2f2f2" stroke-width="1.1" />
  {/each}
</svg>
{#each tags as t (t.key)}
  <span
    class="tag {t.kind}"
    class:chosen={t.kind === 'cast' && t.label === letterOf(studio.castIndex)}
    style:left="{t.at.x}px"
    style:top="{t.at.y}px"
  >
    {t.label}
  </span>
{/each}

<style>
  .tag {
    position: absolute;
    transform: translate(-50%, -50%);
    pointer-events: none;
    min-width: 18px;
    padding: 0 4px;
    text-align: center;
    font-size: 11px;
    font-weight: 650;
    line-height: 17px;
    border: 1px solid #161616;
    background: #f2f2f2;
    color: #161616;
  }
  .tag.tainted,
  .tag.cast.chosen {
    background: #161616;
    border-color: #f2f2f2;
    color: #f2f2f2;
  }
  .tag.keep {
    border-width: 2px;
  }
</style>
