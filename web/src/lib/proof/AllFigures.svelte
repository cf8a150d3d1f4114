<script lang="ts">
  import Dial from '../dial/Dial.svelte';
  import type { Vector } from '../api/types';
  import { useStudio } from '../studio/studio.svelte';
  import SkinTable from '../people/SkinTable.svelte';
  import FigureRow from './FigureRow.svelte';

  /** Every figure of every cast and of the photo, where the instruments stand otherwise. */
  const studio = useStudio();
  const { proving } = studio;
</script>

<aside
  class="flex min-h-0 flex-col border-l border-line pt-2 pr-1 pl-3"
  aria-label="All figures"
  data-testid="all-figures"
>
  <header class="flex h-[28px] shrink-0 items-center justify-between">
    <h2 class="font-semibold">All figures</h2>
    <button class="quiet" aria-label="Close all figures" onclick={() => (proving.open = false)}
      >×</button
    >
  </header>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div
    class="min-h-0 flex-1 overflow-y-auto pr-2 pb-3"
    tabindex="0"
    role="group"
    aria-label="Figures"
  >
    {#each studio.recipe.casts as cast (cast.id)}
      {@const proof = proving.proof?.casts.find((c) => c.id === cast.id)}
      <section class="mb-3" aria-label={studio.titleOf(cast)}>
        <h3 class="flex items-center gap-2">
          <Dial
            before={(proof?.offset_before ?? null) as Vector | null}
            after={(proof?.offset_after ?? null) as Vector | null}
            size={34}
          />
          <span class="min-w-0 flex-1 truncate font-semibold">{studio.titleOf(cast)}</span>
        </h3>
        <p class="text-small text-ink2">{studio.amountsOf(cast)}</p>
        {#each proof?.concerns ?? [] as concern (concern.text)}
          <p class="notched mt-0.5 bg-attention py-0.5 pr-1 text-small leading-tight text-inverse">
            {concern.text}.
          </p>
        {/each}
        <table class="w-full text-small">
          <tbody>
            {#each proving.figures?.casts[cast.id] ?? [] as figure (figure.name)}
              <FigureRow {figure} cast={cast.id} />
            {/each}
          </tbody>
        </table>
      </section>
    {/each}
    <SkinTable />
    <section aria-label="The photo">
      <h3 class="mb-1 font-semibold">The photo</h3>
      <table class="w-full text-small">
        <tbody>
          {#each proving.figures?.photo ?? [] as figure (figure.name)}
            <FigureRow {figure} cast={null} />
          {/each}
          {#if proving.field}<FigureRow figure={proving.field} cast={null} />{/if}
        </tbody>
      </table>
      <p class="mt-1 text-small text-ink2">
        Distances in ΔE2000. Click a value to see its pixels on the photo.
      </p>
    </section>
  </div>
</aside>
