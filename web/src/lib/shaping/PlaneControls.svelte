<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { Vector } from '../api/types';
  import { WAYS } from '../canvas/hand.svelte';
  import NumberField from '../controls/NumberField.svelte';
  import WordChoice from '../controls/WordChoice.svelte';
  import { within } from '../canvas/within';
  import { useStudio } from '../studio/studio.svelte';
  import {
    changed,
    grabbed,
    type Held,
    isInPlane,
    isPinned,
    smoothed,
    stopped,
    without,
  } from './plane';
  import { ShapeReader } from './shape-reader.svelte';

  /** The colours of what is masked on a sheet of the a-b plane, warped by what is dragged. */
  let { settings }: { settings: Snippet } = $props();
  const studio = useStudio();
  const reader = new ShapeReader(studio);
  const remedy = $derived(isInPlane(studio.remedy) ? studio.remedy : null);
  const half = $derived(reader.read?.plane_range ?? 0.25);
  let sheet = $state<SVGSVGElement>();
  let chosenId = $state<string | null>(null);
  let reach = $state<Held['reach']>('all');
  let held = false;
  const chosen = $derived(
    remedy?.points.find((p) => p.id === chosenId) ?? remedy?.points.at(-1) ?? null,
  );
  const limits = $derived(remedy && reader.read ? stopped(remedy, reader.read.reached) : []);
  const shownLines = $derived(
    reader.read?.lines[reach === 'dark' ? 'dark' : 'light'] ?? reader.read?.lines['light'] ?? [],
  );
  const reaches = [
    ['all', 'all tones'],
    ['dark', 'dark'],
    ['light', 'light'],
  ] as const;

  const path = (line: readonly Vector[]): string =>
    `M${line.map(([a, b]) => `${a} ${-b}`).join('L')}`;

  function colourAt(event: PointerEvent): Vector {
    const [x, y] = within(sheet as SVGSVGElement, event);
    return [(2 * x - 1) * half, (1 - 2 * y) * half];
  }

  function press(event: PointerEvent): void {
    if (!remedy || !sheet) return;
    sheet.setPointerCapture(event.pointerId);
    const at = colourAt(event);
    const over = remedy.points.find(
      (p) => Math.hypot(p.end[0] - at[0], p.end[1] - at[1]) < 0.05 * half,
    );
    if (over) chosenId = over.id;
    else {
      const next = grabbed(remedy, at, reach);
      chosenId = next.points.at(-1)?.id ?? null;
      studio.changeRemedy(() => next, false);
    }
    held = chosenId !== null;
  }

  function drag(event: PointerEvent, done = false): void {
    if (!held || !remedy || !chosenId) return;
    const id = chosenId;
    const start = remedy.points.find((p) => p.id === id)?.start;
    const [a, b] = colourAt(event);
    // A press that hardly moves pins the colour where it is.
    const pins = start && Math.hypot(a - start[0], b - start[1]) < 0.02 * half;
    const end: [number, number] = pins ? start : [a, b];
    studio.changeRemedy(() => changed(remedy, id, { end }), done);
    if (done) held = false;
  }

  function key(event: KeyboardEvent, point: Held): void {
    if (!remedy) return;
    const way = WAYS[event.key];
    const step = event.shiftKey ? 0.01 : event.altKey ? 0.0005 : 0.002;
    if (way) {
      const end: [number, number] = [point.end[0] + way[0] * step, point.end[1] - way[1] * step];
      studio.changeRemedy(() => changed(remedy, point.id, { end }));
    } else if (event.key === 'Delete' || event.key === 'Backspace')
      studio.changeRemedy(() => without(remedy, point.id));
    else return;
    event.preventDefault();
  }
</script>

{#if remedy}
  <div class="flex flex-wrap gap-x-5 gap-y-2">
    <!-- svelte-ignore a11y_no_static_element_interactions -->
    <svg
      bind:this={sheet}
      class="h-[148px] w-[148px] flex-none touch-none bg-field"
      viewBox="{-half} {-half} {2 * half} {2 * half}"
      role="group"
      aria-label="Colours in the a-b plane: press to take hold of one"
      onpointerdown={press}
      onpointermove={(event) => drag(event)}
      onpointerup={(event) => drag(event, true)}
    >
      {#if reader.read}
        <image
          href={reader.read.plane}
          x={-half}
          y={-half}
          width={2 * half}
          height={2 * half}
          preserveAspectRatio="none"
          data-testid="plane"
        />
      {/if}
      <g fill="none" stroke="var(--ink2)" stroke-width="0.6" opacity="0.55">
        {#each shownLines as line, i (i)}
          <path d={path(line)} vector-effect="non-scaling-stroke" data-testid="warped" />
        {/each}
      </g>
      {#each remedy.points as point (point.id)}
        {@const to = reader.read?.reached[point.id] ?? point.end}
        {@const size = 0.022 * half}
        <g opacity={reach === 'all' || point.reach === 'all' || point.reach === reach ? 1 : 0.35}>
          <path
            d="M{point.start[0]} {-point.start[1]}L{to[0]} {-to[1]}"
            stroke="var(--ink)"
            stroke-width="1.4"
            vector-effect="non-scaling-stroke"
          />
          {#if limits.includes(point)}
            <path
              d="M{to[0]} {-to[1]}L{point.end[0]} {-point.end[1]}"
              stroke="var(--ink)"
              stroke-width="1"
              stroke-dasharray="1 3"
              vector-effect="non-scaling-stroke"
            />
          {/if}
          <rect
            x={point.start[0] - size}
            y={-point.start[1] - size}
            width={2 * size}
            height={2 * size}
            fill="var(--field)"
            stroke="var(--ink)"
            vector-effect="non-scaling-stroke"
          />
          <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
          <rect
            x={point.end[0] - 1.5 * size}
            y={-point.end[1] - 1.5 * size}
            width={3 * size}
            height={3 * size}
            fill={isPinned(point) ? 'none' : 'var(--ink)'}
            stroke="var(--ink)"
            stroke-width={chosen?.id === point.id ? 2.4 : 1.2}
            vector-effect="non-scaling-stroke"
            role="slider"
            tabindex="0"
            aria-label={isPinned(point) ? 'Pinned colour' : 'Dragged colour'}
            aria-valuenow={Math.round(Math.hypot(point.end[0], point.end[1]) * 1000)}
            aria-valuetext="red {(point.end[0] * 100).toFixed(1)}, yellow {(
              point.end[1] * 100
            ).toFixed(1)}"
            onfocus={() => (chosenId = point.id)}
            onkeydown={(event) => key(event, point)}
            ondblclick={() => studio.changeRemedy(() => without(remedy, point.id))}
          ></rect>
        </g>
      {/each}
    </svg>
    <div class="min-w-[240px] flex-1">
      <div class="mb-1 flex items-center gap-2">
        <WordChoice
          label="Tones that are dragged"
          value={reach}
          words={reaches}
          onchange={(r) => (reach = r)}
        />
        <button
          class="quiet ml-auto"
          title="Every colour gives way a little more, so that the plane bends less"
          disabled={!remedy.points.length}
          onclick={() => studio.changeRemedy(() => smoothed(remedy))}>Smooth all</button
        >
      </div>
      {@render settings()}
      {#if remedy.points.some((p) => p.reach !== 'all')}
        <label class="flex items-center gap-2 text-ink2"
          >dark below, light above
          <NumberField
            label="Crossover of dark and light"
            value={remedy.crossover * 100}
            least={0}
            most={100}
            step={1}
            width={44}
            onchange={(v) => studio.changeRemedy((r) => ({ ...r, crossover: v / 100 }) as typeof r)}
          /></label
        >
      {/if}
      {#if chosen}
        <p class="mt-1 flex flex-wrap items-center gap-x-2.5 gap-y-1 text-ink2">
          <span
            >{isPinned(chosen) ? 'Pinned' : 'Dragged'}{chosen.reach === 'all'
              ? ''
              : `, ${chosen.reach}`}</span
          >
          {#each [['light', 'light', -30, 30], ['loose', 'loose', 0, 100]] as const as [name, label, least, most] (name)}
            <label class="flex items-center gap-1"
              >{label}
              <NumberField
                label="Colour, {label}"
                value={chosen[name] * 100}
                {least}
                {most}
                step={1}
                unit=" %"
                width={54}
                onchange={(v) =>
                  studio.changeRemedy(() => changed(remedy, chosen.id, { [name]: v / 100 }))}
              /></label
            >
          {/each}
          <button
            class="quiet"
            onclick={() => studio.changeRemedy(() => without(remedy, chosen.id))}>Let go</button
          >
        </p>
      {:else}
        <p class="mt-1 text-ink2">
          Press on a colour of the sheet and drag it, or drag on the photo; a short press pins it.
          Greys are pinned.
        </p>
      {/if}
      {#if limits.length}
        <p class="notched mt-1 bg-attention py-0.5 pr-2 text-small text-inverse" role="status">
          {limits.length === 1 ? 'One colour stops' : `${limits.length} colours stop`} on the way: further
          on the plane would fold.
        </p>
      {/if}
    </div>
  </div>
{/if}
