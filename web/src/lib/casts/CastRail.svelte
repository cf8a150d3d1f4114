<script lang="ts">
  import { useStudio } from '../studio/studio.svelte';
  import BaseCard from '../base/BaseCard.svelte';
  import FoundSection from '../finder/FoundSection.svelte';
  import LookButton from '../finder/LookButton.svelte';
  import LookCard from '../look/LookCard.svelte';
  import CastCard from './CastCard.svelte';
  import CopyDialog from './CopyDialog.svelte';

  const studio = useStudio();
  /** Outside the cards: breaking its link makes another card of a cast. */
  let copying = $state(false);
  const treated = $derived(
    studio.recipe.casts.filter(
      (c) => c.on && c.mask.parts.length && c.pairs.some((p) => p.reference),
    ).length,
  );
</script>

<aside class="flex min-h-0 flex-col border-r border-line" aria-label="Casts">
  <header class="flex items-baseline gap-2 px-3 pt-3 pb-2">
    <h2 class="flex-1 font-semibold">Casts</h2>
    <span class="text-ink2">
      {[
        studio.recipe.casts.length && `${treated} treated`,
        studio.finder.findings.length && `${studio.finder.findings.length} found`,
      ]
        .filter(Boolean)
        .join(', ')}
    </span>
    {#if studio.bench.railCanFold}
      <button
        class="quiet"
        aria-expanded="true"
        title="Fold to letters and dials: more room for the photo"
        onclick={() => (studio.bench.railFolded = true)}>fold</button
      >
    {/if}
  </header>
  <div class="flex min-h-0 flex-1 flex-col gap-2 overflow-y-auto px-3 pb-3">
    <BaseCard />
    {#each studio.recipe.casts as cast, index (cast.id)}
      {#if !cast.after_look}<CastCard {cast} {index} oncopy={() => (copying = true)} />{/if}
    {:else}
      {#if !studio.finder.survey && studio.finder.done === null}
        <p class="text-ink2">
          Nothing diagnosed yet. Let Nubilis look, or sample a place on the photo whose colour does
          not belong there.
        </p>
      {/if}
    {/each}
    <LookCard />
    {#each studio.recipe.casts as cast, index (cast.id)}
      {#if cast.after_look}<CastCard {cast} {index} oncopy={() => (copying = true)} />{/if}
    {/each}
    <FoundSection />
  </div>
  <div class="border-t border-faint p-3">
    <LookButton />
  </div>
</aside>

<CopyDialog bind:open={copying} />
