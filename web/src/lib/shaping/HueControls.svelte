<script lang="ts">
  import type { Snippet } from 'svelte';
  import NumberField from '../controls/NumberField.svelte';
  import WordChoice from '../controls/WordChoice.svelte';
  import { within } from '../canvas/within';
  import { useStudio } from '../studio/studio.svelte';
  import { changed, grabbed, type HueMove, isByHue, MOST, restsAt, without } from './hues';
  import { ShapeReader } from './shape-reader.svelte';

  /** The photo's hues with curves over them, drawn by the engine, and a handle for each point. */
  let { settings }: { settings: Snippet } = $props();
  const studio = useStudio();
  const reader = new ShapeReader(studio);
  const remedy = $derived(isByHue(studio.remedy) ? studio.remedy : null);
  const moves = [
    ['turn', 'hue'],
    ['saturation', 'saturation'],
    ['light', 'light'],
  ] as const;
  let move = $state<HueMove>('turn');
  let chosenId = $state<string | null>(null);
  let ground = $state<SVGSVGElement>();
  let held = false;
  const HIGH = 100;
  const chosen = $derived(
    remedy?.points.find((p) => p.id === chosenId) ?? remedy?.points.at(-1) ?? null,
  );

  const bars = $derived.by(() => {
    const hues = reader.read?.hues ?? [];
    const step = 360 / Math.max(hues.length, 1);
    return hues
      .map((v, i) => `M${i * step} ${HIGH}V${HIGH - v * 0.9 * HIGH}H${(i + 1) * step}V${HIGH}Z`)
      .join('');
  });

  const height = (value: number, of: HueMove): number => (HIGH / 2) * (1 - value / MOST[of]);

  function line(of: HueMove): string {
    const values = reader.read?.by_hue[moves.findIndex(([m]) => m === of)] ?? [];
    const step = 360 / Math.max(values.length - 1, 1);
    return values.map((v, i) => `${i ? 'L' : 'M'}${i * step} ${height(v, of)}`).join('');
  }

  function put(id: string, [x, y]: [number, number], done: boolean): void {
    if (!remedy) return;
    const to = { hue: x * 359.99, [move]: (1 - 2 * y) * MOST[move] };
    studio.changeRemedy(() => changed(remedy, id, to), done);
  }

  function press(event: PointerEvent): void {
    if (!remedy || !ground) return;
    ground.setPointerCapture(event.pointerId);
    const [x] = within(ground, event);
    const next = grabbed(remedy, x * 360);
    chosenId = next.points.at(-1)?.id ?? null;
    held = chosenId !== null;
    studio.changeRemedy(() => next, false);
  }

  function drag(event: PointerEvent, done = false): void {
    if (!held || !ground || !chosenId) return;
    put(chosenId, within(ground, event), done);
    if (done) held = false;
  }

  function key(event: KeyboardEvent, id: string): void {
    const point = remedy?.points.find((p) => p.id === id);
    if (!remedy || !point) return;
    chosenId = id;
    const size = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
    const up = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    const along = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (up)
      studio.changeRemedy(() =>
        changed(remedy, id, { [move]: point[move] + (up * size * MOST[move]) / 60 }),
      );
    else if (along)
      studio.changeRemedy(() => changed(remedy, id, { hue: point.hue + along * size }));
    else if (event.key === 'Delete' || event.key === 'Backspace')
      studio.changeRemedy(() => without(remedy, id));
    else return;
    event.preventDefault();
  }
</script>

{#if remedy}
  <div class="flex flex-wrap gap-x-4 gap-y-2">
    <div class="min-w-[205px] flex-[3]">
      <div class="mb-1 flex items-baseline justify-between">
        <WordChoice
          label="What the curve moves"
          value={move}
          words={moves}
          onchange={(m) => (move = m)}
        />
        <button
          class="quiet"
          class:invisible={!chosen}
          onclick={() => chosen && studio.changeRemedy(() => without(remedy, chosen.id))}
          >Let go</button
        >
      </div>
      <!-- svelte-ignore a11y_no_static_element_interactions -->
      <svg
        bind:this={ground}
        class="block h-[104px] w-full touch-none overflow-visible bg-field"
        viewBox="0 0 360 {HIGH}"
        preserveAspectRatio="none"
        role="group"
        aria-label="Hues: press to take hold of one"
        onpointerdown={press}
        onpointermove={(event) => drag(event)}
        onpointerup={(event) => drag(event, true)}
      >
        <path d={bars} fill="var(--line)" data-testid="hues" />
        <path d="M0 {HIGH / 2}H360" stroke="var(--line)" vector-effect="non-scaling-stroke" />
        {#each moves as [of] (of)}
          <path
            d={line(of)}
            fill="none"
            stroke={of === move ? 'var(--ink)' : 'var(--ink2)'}
            stroke-width={of === move ? 1.6 : 0.8}
            stroke-dasharray={of === move ? undefined : '2 3'}
            vector-effect="non-scaling-stroke"
          />
        {/each}
        {#each remedy.points as point (point.id)}
          <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
          <rect
            x={point.hue - 4}
            y={height(point[move], move) - 4.5}
            width="8"
            height="9"
            fill={restsAt(point) ? 'var(--field)' : 'var(--ink)'}
            stroke="var(--ink)"
            stroke-width={chosen?.id === point.id ? 2.4 : 1.2}
            vector-effect="non-scaling-stroke"
            role="slider"
            tabindex="0"
            aria-label="Hue {point.hue.toFixed(0)}°"
            aria-valuenow={Math.round(point[move] * 100)}
            onfocus={() => (chosenId = point.id)}
            onkeydown={(event) => key(event, point.id)}
            ondblclick={() => studio.changeRemedy(() => without(remedy, point.id))}
          ></rect>
        {/each}
      </svg>
      <div class="hues mt-0.5 h-1.5 w-full" aria-hidden="true"></div>
    </div>
    <div class="min-w-[196px] flex-1">
      {@render settings()}
      {#if chosen}
        <p class="mt-1 grid grid-cols-2 items-center gap-x-3 gap-y-1 text-ink2">
          {#each [['hue', 'at', 0, 360, 1, '°'], ['turn', 'turn', -60, 60, 1, '°'], ['saturation', 'sat.', -100, 100, 100, ' %'], ['light', 'light', -30, 30, 100, ' %']] as const as [name, label, least, most, factor, unit] (name)}
            <label class="flex items-center justify-between gap-1"
              >{label}
              <NumberField
                label="Hue point, {label}"
                value={chosen[name] * factor}
                {least}
                {most}
                step={1}
                {unit}
                width={52}
                onchange={(v) =>
                  studio.changeRemedy(() => changed(remedy, chosen.id, { [name]: v / factor }))}
              /></label
            >
          {/each}
        </p>
      {:else}
        <p class="mt-1.5 text-ink2">
          Press on a hue here, or drag on the photo: sideways it turns, upwards it gets stronger.
        </p>
      {/if}
    </div>
  </div>
{/if}

<style>
  .hues {
    background: linear-gradient(
      in oklch longer hue to right,
      oklch(0.7 0.12 0deg),
      oklch(0.7 0.12 360deg)
    );
  }
</style>
