<script lang="ts">
  import type { Vector } from '../api/types';
  import { letterOf, markedSamples, withoutSample, type Whose } from '../recipe/edit';
  import { percent } from '../touch/touching.svelte';
  import { useStudio } from '../studio/studio.svelte';
  import { BRUSHING } from '../studio/tools';
  import { WAYS } from './hand.svelte';
  import type { Stage } from './stage.svelte';
  import type { Point } from './viewport';

  /** Flat tags beside the spot, joined to it by a short line; the spot itself stays clear. A cast's letter
   * selects it; a sample's number is dragged, or nudged with the arrow keys. */
  let { stage }: { stage: Stage } = $props();
  const studio = useStudio();

  const OUT = 26;
  const FREE = 5;
  const TOP = 12; // below the bar, or a mask that reaches the upper edge would lose its letter

  interface Tag {
    key: string;
    label: string;
    kind: 'cast' | 'touch' | Whose['role'];
    title: string;
    place: Vector;
    /** What it marks, when that can be put elsewhere or taken away. */
    held: Held | null;
    castId: string;
    /** What else than selecting the cast a click does. */
    choose?: () => void;
    at: Point;
    from: Point;
  }
  interface Held {
    put: (place: Vector) => void | Promise<void>;
    remove: () => void;
  }
  type Named = Pick<Tag, 'key' | 'label' | 'kind' | 'title' | 'held' | 'castId' | 'choose'>;

  let dragged = $state<{ key: string; start: Point; place: Vector } | null>(null);

  function tag(named: Named, place: Vector, way: Vector): Tag {
    if (dragged?.key === named.key) place = dragged.place;
    const spot = stage.toScreen(place);
    return {
      ...named,
      place,
      at: { x: spot.x + way[0] * OUT, y: Math.max(spot.y + way[1] * OUT, TOP) },
      from: { x: spot.x + way[0] * FREE, y: spot.y + way[1] * FREE },
    };
  }

  const tags = $derived.by(() => {
    const made: Tag[] = [];
    studio.recipe.casts.forEach((cast, i) => {
      const edge = studio.proof?.casts.find((c) => c.id === cast.id)?.edge;
      const label = letterOf(i);
      const title = `Mark of cast ${label}`;
      const named = {
        key: cast.id,
        label,
        kind: 'cast',
        title,
        held: null,
        castId: cast.id,
      } as const;
      if (edge) made.push(tag(named, edge, [0, -0.75]));
    });
    const { cast } = studio;
    if (cast && !studio.finder.shown)
      for (const { id, role, number, sample } of markedSamples(cast))
        if (sample.at && studio.tool !== 'touch') {
          const title = `Sample ${number}: drag it, or nudge it with the arrow keys`;
          const named = { key: `${id}-${role}`, label: String(number), kind: role, title };
          const left = role === 'tainted' ? -0.8 : 0.8;
          const more = { held: ofSample({ id, role }), castId: cast.id };
          made.push(tag({ ...named, ...more }, sample.at, [left, -0.6]));
        }
    if (cast && studio.tool === 'who')
      for (const { who, box } of studio.people.faces ?? []) {
        const title = `Person ${who}, from the left`;
        const choose = () => void studio.people.choose(who);
        const named = { key: `who-${who}`, label: String(who), kind: 'cast', title } as const;
        const more = { held: null, castId: cast.id, choose };
        made.push(tag({ ...named, ...more }, [(box[0] + box[2]) / 2, box[1]], [0, -0.6]));
      }
    if (cast && studio.tool === 'touch')
      cast.touches.forEach(({ id, at, amount }, i) => {
        const title = `Touch ${i + 1}: drag it, or nudge it with the arrow keys`;
        const named = { key: id, label: percent(amount), kind: 'touch', title } as const;
        made.push(tag({ ...named, held: ofTouch(id), castId: cast.id }, at, [0.8, -0.6]));
      });
    return made;
  });

  const ofSample = (whose: Whose): Held => ({
    put: (place) => studio.sampler.move(whose, place),
    remove: () => studio.changeCast((cast) => withoutSample(cast, whose)),
  });

  const ofTouch = (id: string): Held => ({
    put: (place) => studio.touching.move(id, place),
    remove: () => studio.touching.remove(id),
  });

  function down(event: PointerEvent & { currentTarget: HTMLElement }, t: Tag): void {
    event.stopPropagation();
    if (!t.held) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    dragged = { key: t.key, start: { x: event.clientX, y: event.clientY }, place: t.place };
  }

  function move(event: PointerEvent, t: Tag): void {
    if (dragged?.key !== t.key) return;
    event.stopPropagation();
    const { start, place } = dragged;
    const spot = stage.toScreen(place);
    const x = spot.x + event.clientX - start.x;
    const y = spot.y + event.clientY - start.y;
    const to = stage.held(stage.toPlace({ x, y }));
    dragged = { key: t.key, start: { x: event.clientX, y: event.clientY }, place: to };
  }

  async function up(event: PointerEvent, t: Tag): Promise<void> {
    event.stopPropagation();
    if (dragged?.key === t.key && t.held) await put(t.held, dragged.place);
    dragged = null;
  }

  /** Just inside, since the photo's far rim belongs to no pixel. */
  async function put(held: Held, place: Vector): Promise<void> {
    const rim = 0.5 / stage.longEdge;
    const [x, y] = stage.held([place[0] + rim, place[1] + rim]);
    await held.put([Math.max(x - rim, 0), Math.max(y - rim, 0)]);
  }

  function key(event: KeyboardEvent, { held, place }: Tag): void {
    if (!held) return;
    const way = WAYS[event.key];
    if (!way && event.key !== 'Delete') return;
    event.preventDefault();
    event.stopPropagation();
    if (!way) return held.remove();
    const step = (event.shiftKey ? 10 : 1) / stage.longEdge;
    void put(held, [place[0] + way[0] * step, place[1] + way[1] * step]);
  }
</script>

<svg class="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true">
  {#each tags as t (t.key)}
    <path d="M{t.from.x} {t.from.y}L{t.at.x} {t.at.y}" stroke="#161616" stroke-width="2.6" />
    <path d="M{t.from.x} {t.from.y}L{t.at.x} {t.at.y}" stroke="#f2f2f2" stroke-width="1.1" />
  {/each}
</svg>
{#each tags as t (t.key)}
  <button
    class="photo-tag {t.kind}"
    class:chosen={t.kind === 'cast' && t.castId === studio.castId}
    class:unreachable={BRUSHING.includes(studio.tool)}
    style:left="{t.at.x}px"
    style:top="{t.at.y}px"
    title={t.title}
    aria-label={t.title}
    onpointerdown={(event) => down(event, t)}
    onpointermove={(event) => move(event, t)}
    onpointerup={(event) => void up(event, t)}
    onkeydown={(event) => key(event, t)}
    onclick={() => (t.choose ? t.choose() : !t.held && studio.select(t.castId))}
  >
    {t.label}
  </button>
{/each}

<style>
  .photo-tag {
    position: absolute;
    transform: translate(-50%, -50%);
    min-width: 18px;
    padding: 0 4px;
    text-align: center;
    font-size: 11px;
    font-weight: 650;
    line-height: 17px;
    border: 1px solid #161616;
    background: #f2f2f2;
    color: #161616;
    touch-action: none;
  }
  /* The target of a pointer is larger than what is drawn. */
  .photo-tag::after {
    content: '';
    position: absolute;
    inset: -3px;
  }
  .unreachable {
    pointer-events: none;
  }
  .tainted,
  .reference,
  .touch,
  .keep {
    cursor: grab;
  }
  .tainted,
  .cast.chosen {
    background: #161616;
    border-color: #f2f2f2;
    color: #f2f2f2;
  }
  .keep {
    border-width: 2px;
  }
</style>
