<script lang="ts">
  import { useStudio } from '../studio/studio.svelte';
  import type { Stage } from './stage.svelte';

  /** The rectangle whose colours the scopes read. */
  let { stage }: { stage: Stage } = $props();
  const studio = useStudio();
  const rect = $derived.by(() => {
    const { box } = studio.scopes;
    if (!box) return null;
    const a = stage.toScreen([box[0], box[1]]);
    const b = stage.toScreen([box[2], box[3]]);
    return { x: a.x, y: a.y, width: b.x - a.x, height: b.y - a.y };
  });
</script>

{#if rect}
  <svg class="pointer-events-none absolute inset-0 h-full w-full" data-testid="scope-box">
    <rect {...rect} fill="none" stroke="#161616" stroke-width="3" />
    <rect {...rect} fill="none" stroke="#f2f2f2" stroke-width="1.2" />
  </svg>
{/if}
