<script lang="ts">
  import { useStudio } from '../studio/studio.svelte';

  /** What the chosen cast does to lips and eyes, and one choice that keeps them. */
  const studio = useStudio();
  const moved = $derived(studio.proving.features.find((f) => f.cast === studio.castId));
  const told = $derived(
    (
      [
        ['lips', moved?.lips ?? 0],
        ['eyes', moved?.eyes ?? 0],
      ] as const
    )
      .filter(([, by]) => by > 0)
      .map(([of, by]) => `${of} ${by.toFixed(1)}`)
      .join(', '),
  );
</script>

{#if told}
  <p class="flex items-baseline gap-2">
    <span class="flex-1" title="ΔE2000, mean">Moves {told}</span>
    <button
      class="quiet"
      title="Two parts that take lips and eyes away from the mask"
      onclick={() => void studio.people.keepFeatures()}>Keep lips and eyes</button
    >
  </p>
{/if}
