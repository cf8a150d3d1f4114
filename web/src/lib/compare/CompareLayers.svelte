<script lang="ts">
  import type { Stage } from '../canvas/stage.svelte';
  import { useStudio } from '../studio/studio.svelte';
  import CompareLayer from './CompareLayer.svelte';
  import Divider from './Divider.svelte';

  /** What lies over the photo while two states of it are compared, or a version is shown in its place. */
  let { stage }: { stage: Stage } = $props();
  const studio = useStudio();
  const { compare, versions } = studio;
  const BLINK_MS = 650;
  let first = $state(true);

  $effect(() => {
    if (compare.mode !== 'blink') return;
    const timer = setInterval(() => (first = !first), BLINK_MS);
    return () => clearInterval(timer);
  });

  /** The half of the canvas on the left of the divider. */
  const half = $derived.by(() => {
    const { x, y, turn } = compare.divider;
    const { width, height } = stage.canvas;
    const far = 3 * Math.max(width, height);
    const angle = (turn * Math.PI) / 180;
    const along = { x: -Math.sin(angle) * far, y: Math.cos(angle) * far };
    const left = { x: -Math.cos(angle) * far, y: -Math.sin(angle) * far };
    const centre = { x: (x * width) / stage.dpr, y: (y * height) / stage.dpr };
    const corners = [
      [-1, 0],
      [1, 0],
      [1, 1],
      [-1, 1],
    ] as const;
    const points = corners.map(
      ([a, b]) =>
        `${(centre.x + a * along.x + b * left.x).toFixed(1)}px ${(centre.y + a * along.y + b * left.y).toFixed(1)}px`,
    );
    return `polygon(${points.join(', ')})`;
  });
  const tag = 'pointer-events-none absolute top-3 bg-ink px-2 py-1 text-inverse';
</script>

{#if compare.mode !== 'off' && compare.b !== 'now'}
  <CompareLayer {stage} side={compare.b} />
{/if}
{#if compare.mode === 'split'}
  <CompareLayer {stage} side={compare.a} clip={half} />
  <Divider />
{:else if compare.mode === 'blink'}
  <CompareLayer {stage} side={compare.a} visible={first} />
{/if}
{#if compare.mode === 'split'}
  <p class="{tag} left-3">{compare.nameOf(compare.a)}</p>
  <p class="{tag} right-3">{compare.nameOf(compare.b)}</p>
{:else if compare.mode === 'blink'}
  <p class="{tag} left-3">{compare.nameOf(first ? compare.a : compare.b)}</p>
{:else if compare.panes.length}
  <p class="{tag} left-3">{compare.nameOf(compare.b)}</p>
{/if}
{#if versions.flipped}
  {#key versions.flipped.id}
    <CompareLayer {stage} side={`version ${versions.flipped.id}`} />
  {/key}
  <p class="{tag} left-3" role="status">Version: {versions.flipped.name}</p>
{/if}
