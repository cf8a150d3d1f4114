<script lang="ts">
  import { untrack, type Snippet } from 'svelte';
  import { call } from '../api/client';
  import { LatestWins } from '../api/latest-wins';
  import type { Recipe } from '../api/types';
  import NumberField from '../controls/NumberField.svelte';
  import { within } from '../canvas/within';
  import { useStudio } from '../studio/studio.svelte';
  import ZoneSheet from './ZoneSheet.svelte';
  import { crossed, isZones, shareOf, type Zone, ZONES, type Zones } from './zones';

  /** The masked lightness with two crossovers over it, and a sheet for each zone. */
  let { settings }: { settings: Snippet } = $props();
  const studio = useStudio();
  const zones = $derived(isZones(studio.remedy) ? studio.remedy : null);
  let levels = $state.raw<number[]>([]);
  let ground = $state<SVGSVGElement>();
  let held: 'low' | 'high' | null = null;
  const HIGH = 88;

  const asked = new LatestWins<{ recipe: Recipe; cast: string }>(async (body) => {
    const path = { photo_id: studio.photo.id };
    await studio.attempt(async () => {
      const read = await call('post', '/api/photos/{photo_id}/key-levels', { path, body });
      levels = read.mask[2] ?? [];
    });
  });
  const mask = $derived(JSON.stringify([studio.cast?.mask, studio.recipe.base]));

  $effect(() => {
    void mask;
    const { castId } = studio;
    if (castId) untrack(() => asked.want({ recipe: studio.recipe, cast: castId }));
  });

  const change = (next: Zones, done: boolean): void => studio.changeRemedy(() => next, done);

  function hill(of: number[]): string {
    const most = Math.max(...of, 1e-6);
    const tops = of.map(
      (v, i) => `L${((i + 0.5) * 100) / of.length} ${HIGH - (v / most) * (HIGH - 6)}`,
    );
    return `M0 ${HIGH}${tops.join('')}L100 ${HIGH}Z`;
  }

  function line(zone: Zone): string {
    if (!zones) return '';
    const points = Array.from({ length: 101 }, (_, x) => {
      return `${x} ${HIGH - shareOf(zones, zone, x / 100) * (HIGH - 6)}`;
    });
    return `M${points.join('L')}`;
  }

  function drag(event: PointerEvent, done = false): void {
    if (!zones || !held || !ground) return;
    change(crossed(zones, held, within(ground, event)[0]), done);
    if (done) held = null;
  }

  function key(event: KeyboardEvent, which: 'low' | 'high'): void {
    const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!zones || !way) return;
    event.preventDefault();
    const step = event.shiftKey ? 0.1 : event.altKey ? 0.001 : 0.01;
    change(crossed(zones, which, zones[which] + way * step), true);
  }
</script>

{#if zones}
  <div class="flex flex-wrap gap-x-5 gap-y-1">
    <div class="min-w-[220px] flex-1">
      {@render settings()}
      <svg
        bind:this={ground}
        class="block h-[92px] w-full touch-none overflow-visible"
        viewBox="0 0 100 100"
        preserveAspectRatio="none"
        role="group"
        aria-label="Lightness of what is masked"
      >
        <defs>
          <linearGradient id="black-to-white">
            <stop offset="0" stop-color="#111" /><stop offset="1" stop-color="#eee" />
          </linearGradient>
        </defs>
        <path d={hill(levels)} fill="var(--line)" data-testid="masked-light" />
        <rect y={HIGH} width="100" height="5" fill="url(#black-to-white)" />
        {#each ZONES as zone (zone)}
          <path
            d={line(zone)}
            fill="none"
            stroke="var(--ink)"
            stroke-width="1.4"
            stroke-dasharray={{ shadows: undefined, mids: '1 3', lights: '5 3' }[zone]}
            vector-effect="non-scaling-stroke"
          />
        {/each}
        {#each ['low', 'high'] as const as which (which)}
          <line
            x1={zones[which] * 100}
            x2={zones[which] * 100}
            y1="0"
            y2="95"
            stroke="var(--ink)"
            vector-effect="non-scaling-stroke"
          />
          <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
          <rect
            class="cursor-ew-resize"
            x={zones[which] * 100 - 1.6}
            y="90"
            width="3.2"
            height="10"
            fill="var(--ink)"
            role="slider"
            tabindex="0"
            aria-label={which === 'low' ? 'Shadows end' : 'Lights begin'}
            aria-valuemin="0"
            aria-valuemax="100"
            aria-valuenow={Math.round(zones[which] * 100)}
            onpointerdown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              held = which;
            }}
            onpointermove={(event) => drag(event)}
            onpointerup={(event) => drag(event, true)}
            onkeydown={(event) => key(event, which)}
          ></rect>
        {/each}
      </svg>
      <p class="mt-1 flex items-center gap-1.5 text-ink2">
        shadows to
        <NumberField
          label="Shadows to"
          value={zones.low * 100}
          least={0}
          most={92}
          step={1}
          width={40}
          onchange={(v) => change(crossed(zones, 'low', v / 100), true)}
        />
        mids, lights from
        <NumberField
          label="Lights from"
          value={zones.high * 100}
          least={8}
          most={100}
          step={1}
          width={40}
          onchange={(v) => change(crossed(zones, 'high', v / 100), true)}
        />
      </p>
    </div>
    <div class="flex gap-4">
      {#each ZONES as zone (zone)}<ZoneSheet {zone} {zones} {change} />{/each}
    </div>
  </div>
{/if}
