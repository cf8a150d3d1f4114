<script lang="ts">
  import Dial from '../dial/Dial.svelte';
  import { letterOf } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';

  /** Beside a portrait-format photo: letters and dials, so that the photo and the sheet have the room. */
  const studio = useStudio();
  const proofs = $derived(new Map(studio.proof?.casts.map((c) => [c.id, c])));
</script>

<aside
  class="flex min-h-0 flex-col items-stretch border-r border-line py-2 [--dial-ground:var(--panel)]"
  aria-label="Casts"
>
  <button
    class="quiet mx-1"
    aria-expanded="false"
    title="Show the casts with their names and figures"
    onclick={() => (studio.bench.railFolded = false)}>Casts</button
  >
  <div class="flex min-h-0 flex-1 flex-col gap-1 overflow-y-auto px-1 pt-1">
    <button
      class="py-1 text-small"
      aria-pressed={studio.settingBase}
      onclick={() => studio.chooseBase()}>Base</button
    >
    <button
      class="py-1 text-small"
      aria-pressed={studio.settingLook}
      onclick={() => studio.chooseLook()}>Look</button
    >
    {#each studio.recipe.casts as cast, index (cast.id)}
      {@const proof = proofs.get(cast.id)}
      {@const chosen = studio.castId === cast.id}
      <button
        class="flex flex-col items-center gap-0.5 py-1.5"
        class:opacity-60={!cast.on}
        style:--dial-ground={chosen ? 'var(--ink)' : undefined}
        aria-pressed={chosen}
        aria-label="Cast {letterOf(index)}, {studio.nameOf(cast)}"
        title={studio.nameOf(cast)}
        onclick={() => studio.select(cast.id)}
      >
        <span class="text-small font-semibold">{letterOf(index)}</span>
        <Dial before={proof?.offset_before ?? null} after={proof?.offset_after ?? null} size={36} />
      </button>
    {/each}
  </div>
  {#if studio.finder.findings.length}
    <button
      class="quiet mx-1"
      title="Show what was found"
      onclick={() => (studio.bench.railFolded = false)}
      >{studio.finder.findings.length} found</button
    >
  {/if}
</aside>

<style>
  [aria-pressed='true'] {
    background: var(--ink);
    color: var(--inverse);
  }
</style>
