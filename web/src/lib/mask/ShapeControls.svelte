<script lang="ts">
  import SliderRow from '../controls/SliderRow.svelte';
  import type { Shape } from '../shapes/shape';
  import { useStudio } from '../studio/studio.svelte';

  let { part }: { part: Shape } = $props();
  const studio = useStudio();

  interface Row {
    name: string;
    label: string;
    resting: number;
    least: number;
    most: number;
    factor: number;
    unit: string;
  }
  const percent = { least: 0, most: 100, factor: 100, unit: ' %' };
  const rows: Record<Shape['kind'], Row[]> = {
    path: [{ ...percent, name: 'feather', label: 'Feather', resting: 2, most: 25 }],
    oval: [
      { ...percent, name: 'inside', label: 'Fade inside', resting: 30 },
      { ...percent, name: 'outside', label: 'Fade outside', resting: 30 },
      { name: 'angle', label: 'Turned', resting: 0, least: -180, most: 180, factor: 1, unit: '°' },
    ],
    ramp: [],
  };
  const hints: Record<Shape['kind'], string> = {
    path: 'Drag points and handles, or the outline for a new one; Alt: a handle alone. Double click: corner or smooth.',
    oval: 'Drag its centre, its width and turn, its height.',
    ramp: 'Full effect at its beginning, none at its end. Drag either.',
  };
  const value = (name: string): number => (part as unknown as Record<string, number>)[name] ?? 0;

  function set({ name, factor }: Row, to: number, done: boolean): void {
    studio.masking.changePart((p) => ({ ...p, [name]: to / factor }), done);
  }
</script>

{#each rows[part.kind] as row (row.name)}
  <SliderRow
    label={row.label}
    value={value(row.name) * row.factor}
    resting={row.resting}
    least={row.least}
    most={row.most}
    step={row.most <= 25 ? 0.1 : 1}
    unit={row.unit}
    fromRest={row.least < 0}
    onpreview={(v) => set(row, v, false)}
    oncommit={(v) => set(row, v, true)}
  />
{/each}
<p class="mt-1 text-ink2">{hints[part.kind]}</p>
