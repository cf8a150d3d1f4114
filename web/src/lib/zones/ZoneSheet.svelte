<script lang="ts">
  import NumberField from '../controls/NumberField.svelte';
  import { within } from '../canvas/within';
  import { WAYS } from '../canvas/hand.svelte';
  import { FARTHEST, nameOf, restsAt, type Zone, type Zones } from './zones';

  /** One zone's move on a sheet of the a-b plane: hollow where it rests, filled where it was moved. */
  interface Props {
    zone: Zone;
    zones: Zones;
    change: (zones: Zones, done: boolean) => void;
  }
  let { zone, zones, change }: Props = $props();
  let sheet: SVGSVGElement;

  const names: Record<Zone, string> = { shadows: 'Shadows', mids: 'Mids', lights: 'Lights' };
  const at = $derived<[number, number]>([
    zones[nameOf(zone, 'red')] / FARTHEST,
    -zones[nameOf(zone, 'yellow')] / FARTHEST,
  ]);

  function put(x: number, y: number, done: boolean): void {
    const kept = (v: number): number =>
      Math.round(Math.min(Math.max(v, -1), 1) * FARTHEST * 1e4) / 1e4;
    change({ ...zones, [nameOf(zone, 'red')]: kept(x), [nameOf(zone, 'yellow')]: kept(-y) }, done);
  }

  function drag(event: PointerEvent, done = false): void {
    const [x, y] = within(sheet, event);
    put(2 * x - 1, 2 * y - 1, done);
  }

  function key(event: KeyboardEvent): void {
    const way = WAYS[event.key];
    if (!way) return;
    event.preventDefault();
    const step = (event.shiftKey ? 10 : event.altKey ? 0.1 : 1) * (0.001 / FARTHEST);
    put(at[0] + way[0] * step, at[1] + way[1] * step, true);
  }

  const shown = (move: 'saturation' | 'light'): number => zones[nameOf(zone, move)] * 100;
</script>

<div class="min-w-0" role="group" aria-label={names[zone]}>
  <h3 class="flex items-baseline gap-1.5 font-semibold">
    {names[zone]}
    {#if restsAt(zones, zone)}<span class="font-normal text-ink2">at rest</span>{/if}
  </h3>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <svg
    bind:this={sheet}
    class="h-[88px] w-[88px] touch-none bg-field"
    viewBox="-1 -1 2 2"
    role="slider"
    tabindex="0"
    aria-label="{names[zone]}: towards red, yellow, green or blue"
    aria-valuenow={Math.round(zones[nameOf(zone, 'red')] * 1000)}
    aria-valuetext="red {(at[0] * FARTHEST * 100).toFixed(1)}, yellow {(
      -at[1] *
      FARTHEST *
      100
    ).toFixed(1)}"
    onpointerdown={(event) => {
      sheet.setPointerCapture(event.pointerId);
      drag(event);
    }}
    onpointermove={(event) => event.buttons && drag(event)}
    onpointerup={(event) => drag(event, true)}
    ondblclick={() => put(0, 0, true)}
    onkeydown={key}
  >
    <g fill="none" stroke="var(--line)" stroke-width="0.016">
      <path d="M-1 0H1M0 -1V1" />
      <circle r="0.45" />
    </g>
    <g fill="var(--ink2)" font-size="0.2" text-anchor="middle" aria-hidden="true">
      <text x="0.96" y="-0.08" text-anchor="end">red</text>
      <text x="-0.96" y="-0.08" text-anchor="start">green</text>
      <text x="0" y="-0.82">yellow</text>
      <text x="0" y="0.95">blue</text>
    </g>
    <path d="M0 0L{at[0]} {at[1]}" stroke="var(--ink)" stroke-width="0.03" />
    <rect
      x="-0.07"
      y="-0.07"
      width="0.14"
      height="0.14"
      fill="var(--field)"
      stroke="var(--ink)"
      stroke-width="0.025"
    />
    {#if at[0] || at[1]}
      <rect x={at[0] - 0.08} y={at[1] - 0.08} width="0.16" height="0.16" fill="var(--ink)" />
    {/if}
  </svg>
  {#each [['saturation', 'Sat.', 100], ['light', 'Light', 30]] as const as [move, label, most] (move)}
    <label class="mt-0.5 flex items-center gap-1">
      <span class="w-8 text-ink2">{label}</span>
      <NumberField
        label="{names[zone]}, {move}"
        value={shown(move)}
        least={-most}
        {most}
        step={1}
        unit=" %"
        width={56}
        onchange={(percent) => change({ ...zones, [nameOf(zone, move)]: percent / 100 }, true)}
      />
    </label>
  {/each}
</div>
