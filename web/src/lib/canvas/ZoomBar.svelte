<script lang="ts">
  import type { Stage } from './stage.svelte';

  let { stage }: { stage: Stage } = $props();
  const percent = $derived(Math.round(stage.viewport.scale * 100));
</script>

<div class="absolute right-3 bottom-3 flex bg-ink text-inverse">
  <button
    class="quiet px-2"
    aria-pressed={stage.fitted}
    title="Fit the photo (0)"
    onclick={() => stage.fit()}>Fit</button
  >
  <button
    class="quiet px-2"
    aria-pressed={percent === 100}
    title="One photo pixel on one screen pixel (1)"
    onclick={() => stage.zoomTo(1)}>1:1</button
  >
  <span class="min-w-[52px] px-2 text-right leading-6" data-testid="zoom">{percent} %</span>
</div>
