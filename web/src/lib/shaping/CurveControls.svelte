<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { Vector } from '../api/types';
  import { WAYS } from '../canvas/hand.svelte';
  import WordChoice from '../controls/WordChoice.svelte';
  import { within } from '../canvas/within';
  import { useStudio } from '../studio/studio.svelte';
  import { bent, type CurveName, CURVES, isCurves } from './bends';
  import { ShapeReader } from './shape-reader.svelte';

  /** One curve at a time over what the photo holds; the others stay drawn thinly. */
  let { settings }: { settings: Snippet } = $props();
  const studio = useStudio();
  const reader = new ShapeReader(studio);
  const remedy = $derived(isCurves(studio.remedy) ? studio.remedy : null);
  let name = $state<CurveName>('lightness');
  let ground = $state<SVGSVGElement>();
  let held: number | null = null;
  const points = $derived<readonly Vector[]>(remedy?.[name] ?? []);
  const of: Record<CurveName, number> = {
    lightness: 0, red: 1, green: 2, blue: 3, cyan: 1, magenta: 2, yellow: 3, black: 0,
  }; // prettier-ignore
  /** Inks are least where there is most light. */
  const upsideDown = $derived(['cyan', 'magenta', 'yellow', 'black'].includes(name));

  const hill = $derived.by(() => {
    const row = reader.read?.levels[of[name]] ?? [];
    const levels = upsideDown ? [...row].reverse() : row;
    const tops = levels.map((v, i) => `L${((i + 0.5) * 100) / levels.length} ${100 - v * 94}`);
    return `M0 100${tops.join('')}L100 100Z`;
  });
  const used = $derived(CURVES.filter(([n]) => remedy?.[n].length).map(([n]) => n));

  function line(which: CurveName): string {
    const values = reader.read?.curves[which] ?? [];
    return values
      .map((v, i) => `${i ? 'L' : 'M'}${(i * 100) / (values.length - 1)} ${100 - v * 100}`)
      .join('');
  }

  function set(next: readonly Vector[], done: boolean): void {
    studio.changeRemedy((r) => ({ ...r, [name]: next }), done);
  }

  function put(index: number | null, at: Vector, done: boolean): void {
    const next = bent(points, index, at);
    if (!next) return;
    held = next.index;
    set(next.points, done);
  }

  const placeOf = (event: PointerEvent): Vector => {
    const [x, y] = within(ground as SVGSVGElement, event);
    return [x, 1 - y];
  };

  function press(event: PointerEvent): void {
    ground?.setPointerCapture(event.pointerId);
    const [x, y] = placeOf(event);
    const near = points.findIndex((p) => Math.hypot(p[0] - x, p[1] - y) < 0.05);
    if (near >= 0) held = near;
    else put(null, [x, y], false);
  }

  function drag(event: PointerEvent, done = false): void {
    if (held === null) return;
    put(held, placeOf(event), done);
    if (done) held = null;
  }

  function key(event: KeyboardEvent, index: number): void {
    const point = points[index];
    const way = WAYS[event.key];
    const step = event.shiftKey ? 0.05 : event.altKey ? 0.001 : 0.01;
    if (way && point) put(index, [point[0] + way[0] * step, point[1] - way[1] * step], true);
    else if (event.key === 'Delete' || event.key === 'Backspace') drop(index);
    else return;
    held = null;
    event.preventDefault();
  }

  const drop = (index: number): void =>
    set(
      points.filter((_, i) => i !== index),
      true,
    );
</script>

{#if remedy}
  <div class="flex flex-wrap gap-x-4 gap-y-2">
    <!-- svelte-ignore a11y_no_static_element_interactions -->
    <svg
      bind:this={ground}
      class="h-[148px] w-[190px] flex-none touch-none overflow-visible bg-field"
      viewBox="0 0 100 100"
      preserveAspectRatio="none"
      role="group"
      aria-label="Curve: press to bend it"
      onpointerdown={press}
      onpointermove={(event) => drag(event)}
      onpointerup={(event) => drag(event, true)}
    >
      <path d={hill} fill="var(--line)" data-testid="curve-levels" />
      <path d="M0 100L100 0" stroke="var(--line)" vector-effect="non-scaling-stroke" />
      {#each used.filter((n) => n !== name) as other (other)}
        <path
          d={line(other)}
          fill="none"
          stroke="var(--ink2)"
          stroke-width="0.8"
          stroke-dasharray="2 3"
          vector-effect="non-scaling-stroke"
        />
      {/each}
      <path
        d={line(name)}
        fill="none"
        stroke="var(--ink)"
        stroke-width="1.6"
        vector-effect="non-scaling-stroke"
        data-testid="curve"
      />
      {#each points as [x, y], index (index)}
        <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
        <rect
          x={x * 100 - 1.7}
          y={100 - y * 100 - 2.3}
          width="3.4"
          height="4.6"
          fill={x === y ? 'var(--field)' : 'var(--ink)'}
          stroke="var(--ink)"
          vector-effect="non-scaling-stroke"
          role="slider"
          tabindex="0"
          aria-label="Point {index + 1} of {name}"
          aria-valuenow={Math.round(y * 100)}
          aria-valuetext="from {(x * 100).toFixed(0)} to {(y * 100).toFixed(0)}"
          onkeydown={(event) => key(event, index)}
          ondblclick={() => drop(index)}
        ></rect>
      {/each}
    </svg>
    <div class="min-w-[210px] flex-1">
      <div class="mb-1.5 flex flex-col gap-1">
        <WordChoice
          label="Curve of light or a channel"
          value={name}
          words={CURVES.slice(0, 4)}
          onchange={(n) => (name = n)}
        />
        <WordChoice
          label="Curve of an ink"
          value={name}
          words={CURVES.slice(4)}
          onchange={(n) => (name = n)}
        />
      </div>
      {@render settings()}
      <p class="mt-1 flex items-center gap-2 text-ink2">
        {#if points.length}
          {points.length === 1 ? 'One point' : `${points.length} points`}
          <button class="quiet" onclick={() => set([], true)}>Straighten {name}</button>
        {:else}
          Press on the field to bend it; it never turns back.
        {/if}
      </p>
    </div>
  </div>
{/if}
