<script lang="ts">
  import type { Tether } from './tether.svelte';

  /** The simulated camera: it shoots the demo's scenes as raw files into the folder. */
  let { tether }: { tether: Tether } = $props();
  const watch = $derived(tether.watch);
  const EVERY: readonly [number, string][] = [
    [0, 'when pressed'],
    [3, 'every 3 seconds'],
    [10, 'every 10 seconds'],
    [30, 'every 30 seconds'],
  ];
</script>

{#if watch}
  <section class="border-b border-line p-4" aria-label="Simulated camera">
    <h2 class="font-semibold">Simulated camera</h2>
    <p class="mt-1 text-ink2">Shoots the demo's scenes as raw files (DNG) into the folder.</p>
    <div class="mt-3 flex items-center gap-3">
      <button
        class="shutter"
        aria-label="Press the button"
        disabled={tether.exposing || !watch.watched}
        onclick={() => tether.press()}
      ></button>
      <div class="flex-1">
        <select
          class="field w-full"
          aria-label="How often"
          disabled={!watch.watched}
          value={String(tether.every)}
          onchange={(event) => tether.repeat(Number(event.currentTarget.value))}
        >
          {#each EVERY as [seconds, word] (seconds)}
            <option value={String(seconds)}>{word}</option>
          {/each}
        </select>
        <p class="mt-1 text-ink2" role="status">
          {tether.exposing ? 'Exposing' : `${watch.exposures} shot so far`}
        </p>
      </div>
    </div>
  </section>
{/if}

<style>
  .shutter {
    width: 46px;
    height: 46px;
    border-radius: 50%;
    border: 1px solid var(--ink);
    background: var(--ink);
    box-shadow: inset 0 0 0 5px var(--raised);
  }
  .shutter:hover:not(:disabled) {
    box-shadow: inset 0 0 0 3px var(--raised);
  }
  .shutter:active:not(:disabled) {
    box-shadow: inset 0 0 0 8px var(--raised);
  }
  .shutter:disabled {
    opacity: 0.4;
  }
</style>
