<script lang="ts">
  import type { Cast } from '../api/types';
  import { castMoved, castPut } from '../look/look';
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
  /** The card that is being dragged, and where it would be put: before another or last, on a side of the look. */
  let dragged = $state<string | null>(null);
  let over = $state<{ before: string | null; after: boolean } | null>(null);
  const before = $derived(studio.recipe.casts.filter((c) => !c.after_look));
  const after = $derived(studio.recipe.casts.filter((c) => c.after_look));
  const treated = $derived(
    studio.recipe.casts.filter(
      (c) => c.on && c.mask.parts.length && c.pairs.some((p) => p.reference),
    ).length,
  );

  function dragOver(event: DragEvent, to: { before: string | null; after: boolean }): void {
    if (dragged === null) return;
    event.preventDefault();
    over = to;
  }

  function drop(): void {
    if (dragged && over) studio.commit(castPut(studio.recipe, dragged, over.before, over.after));
    dragged = over = null;
  }

  function key(event: KeyboardEvent, id: string): void {
    const way = { ArrowUp: -1, ArrowDown: 1 }[event.key] as -1 | 1 | undefined;
    if (!way || !event.altKey) return;
    event.preventDefault();
    const moved = castMoved(studio.recipe, id, way);
    if (moved !== studio.recipe) studio.commit(moved);
  }
</script>

{#snippet card(cast: Cast)}
  {@const index = studio.recipe.casts.indexOf(cast)}
  <!-- svelte-ignore a11y_no_static_element_interactions -->
  <div
    class:put={over?.before === cast.id}
    draggable="true"
    ondragstart={() => (dragged = cast.id)}
    ondragover={(event) => dragOver(event, { before: cast.id, after: cast.after_look })}
    ondragend={() => (dragged = over = null)}
    ondrop={drop}
    onkeydown={(event) => key(event, cast.id)}
  >
    <CastCard {cast} {index} oncopy={() => (copying = true)} />
  </div>
{/snippet}

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
    {#each before as cast (cast.id)}
      {@render card(cast)}
    {:else}
      {#if !studio.recipe.casts.length && !studio.finder.survey && studio.finder.done === null}
        <p class="text-ink2">
          Nothing diagnosed yet. Let Nubilis look, or sample a place on the photo whose colour does
          not belong there.
        </p>
      {/if}
    {/each}
    <!-- On the look's upper half a card is put last before it, below that first after it. -->
    <div
      role="presentation"
      class:put={over && !over.after && over.before === null}
      class:put-after={over?.after && over.before === (after[0]?.id ?? null)}
      ondragover={(event) => {
        const { top, height } = event.currentTarget.getBoundingClientRect();
        const below = !!studio.recipe.look && event.clientY > top + height / 2;
        dragOver(event, { before: below ? (after[0]?.id ?? null) : null, after: below });
      }}
      ondrop={drop}
    >
      <LookCard />
    </div>
    {#each after as cast (cast.id)}
      {@render card(cast)}
    {/each}
    {#if after.length}
      <div
        role="presentation"
        class="-mt-2 min-h-3"
        class:put={over?.after && over.before === null}
        ondragover={(event) => dragOver(event, { before: null, after: true })}
        ondrop={drop}
      ></div>
    {/if}
    <FoundSection />
  </div>
  <div class="border-t border-faint p-3">
    <LookButton />
  </div>
</aside>

<CopyDialog bind:open={copying} />

<style>
  .put {
    box-shadow: 0 -4px 0 -1px var(--ink);
  }
  .put-after {
    box-shadow: 0 4px 0 -1px var(--ink);
  }
</style>
