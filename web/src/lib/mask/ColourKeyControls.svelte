<script lang="ts">
  import { call } from '../api/client';
  import { LatestWins } from '../api/latest-wins';
  import type { ColourKey, KeyLevels, Range, Recipe } from '../api/types';
  import { isColourKey } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import Band from './Band.svelte';

  let { part }: { part: ColourKey } = $props();
  const studio = useStudio();
  type Dimension = 'hue' | 'saturation' | 'luminance';

  const hues = Array.from({ length: 13 }, (_, i) => `oklch(0.7 0.13 ${i * 30})`).join(', ');
  const middle = $derived((part.hue.core[0] + part.hue.core[1]) / 2);
  const bands: {
    name: Dimension;
    label: string;
    extent: number;
    wraps: boolean;
    ground: string;
  }[] = $derived([
    {
      name: 'hue',
      label: 'Hue',
      extent: 360,
      wraps: true,
      ground: `linear-gradient(to right in oklab, ${hues})`,
    },
    {
      name: 'saturation',
      label: 'Saturation',
      extent: 100,
      wraps: false,
      ground: `linear-gradient(to right in oklab, oklch(0.7 0 0), oklch(0.65 0.33 ${middle}))`,
    },
    {
      name: 'luminance',
      label: 'Luminance',
      extent: 100,
      wraps: false,
      ground: 'linear-gradient(to right in oklab, #000, #fff)',
    },
  ]);

  let levels = $state.raw<KeyLevels | null>(null);
  const latest = new LatestWins<{ recipe: Recipe; cast: string }>(async (body) => {
    try {
      levels = await call('post', '/api/photos/{photo_id}/key-levels', {
        path: { photo_id: studio.photo.id },
        body,
      });
    } catch {
      // The handles work without what is drawn behind them.
    }
  });
  $effect(() => {
    if (studio.castId) latest.want({ recipe: studio.recipe, cast: studio.castId });
  });

  function set(name: Dimension, range: Range, done: boolean): void {
    studio.masking.changePart((p) => (isColourKey(p) ? { ...p, [name]: range } : p), done);
  }
</script>

{#each bands as band, i (band.name)}
  <Band
    label={band.label}
    range={part[band.name]}
    extent={band.extent}
    wraps={band.wraps}
    ground={band.ground}
    photo={levels?.photo[i]}
    masked={levels?.mask[i]}
    onpreview={(range) => set(band.name, range, false)}
    oncommit={(range) => set(band.name, range, true)}
  />
{/each}
<div class="mt-1.5 flex items-center gap-3">
  <button
    class="button"
    aria-pressed={studio.tool === 'key'}
    onclick={() => {
      studio.masking.makingKey = false;
      studio.toggleTool('key');
    }}>Sample the key</button
  >
  <span class="truncate text-ink2">
    {part.left_out.length
      ? `${part.left_out.length} left out`
      : studio.tool === 'key'
        ? 'Shift adds, Alt leaves out.'
        : 'Box: full effect. Line: fade.'}
  </span>
  {#if part.left_out.length}
    <button
      class="button"
      onclick={() =>
        studio.masking.changePart((p) => (isColourKey(p) ? { ...p, left_out: [] } : p))}
      >Take back in</button
    >
  {/if}
</div>
