<script lang="ts">
  import { withKey } from '../help/commands';
  import type { Stage } from './stage.svelte';

  let { stage }: { stage: Stage } = $props();
  const percent = $derived(Math.round(stage.viewport.scale * 100));
</script>

<div class="absolute right-3 bottom-3 flex bg-ink text-inverse">
  <button
    class="quiet px-2"
    aria-pressed={stage.fitted}
    title={withKey('Fit the photo', 'fit')}
    onclick={() => stage.fit()}>Fit</button
  >
  <button
    class="quiet px-2"
    aria-pressed={percent === 100}
    title={withKey('One photo pixel on one screen pixel', 'one-to-one')}
    onclick={() => stage.zoomTo(1)}>1:1</button
  >
  <span class="min-w-[52px] px-2 text-right leading-6" data-testid="zoom">{percent} %</span>
</div>
