<script lang="ts">
  import { useStudio } from '../studio/studio.svelte';
  import CastCard from './CastCard.svelte';

  const studio = useStudio();
  const treated = $derived(
    studio.recipe.casts.filter(
      (c) => c.on && c.mask.parts.length && c.pairs.some((p) => p.reference),
    ).length,
  );
</script>

<aside class="flex min-h-0 flex-col border-r border-line" aria-label="Casts">
  <header class="flex items-baseline justify-between px-3 pt-3 pb-2">
    <h2 class="font-semibold">Casts</h2>
    {#if studio.recipe.casts.length}<span class="text-ink2">{treated} treated</span>{/if}
  </header>
  <div class="flex min-h-0 flex-1 flex-col gap-2 overflow-y-auto px-3 pb-3">
    {#each studio.recipe.casts as cast, index (cast.id)}
      <CastCard {cast} {index} />
    {:else}
      <p class="text-ink2">
        Nothing diagnosed yet. Click a place on the photo whose colour does not belong there.
      </p>
    {/each}
  </div>
  <div class="p-3 pt-0">
    <button class="button tall w-full" onclick={() => studio.addCast()}>New cast</button>
  </div>
</aside>
