<script lang="ts">
  import { untrack } from 'svelte';
  import { call } from '../api/client';
  import type { SamePlaces, SkinElsewhere, Vector } from '../api/types';
  import { swatch } from '../instruments/swatch';
  import { waitingPair } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';

  /** While a tainted place on a face waits for its reference: where else that skin is, one click each. */
  const studio = useStudio();
  let places = $state.raw<SamePlaces | null>(null);
  let elsewhere = $state.raw<SkinElsewhere[]>([]);
  const at = $derived(studio.cast && (waitingPair(studio.cast)?.tainted.at ?? null));
  const offers = $derived(
    (
      [
        ['The same place, other side', places?.other_side],
        ['Where the face is best lit', places?.best_lit],
      ] as const
    ).flatMap(([label, place]) => (place ? [[label, place] as const] : [])),
  );

  $effect(() => {
    const asked = at;
    untrack(() => {
      places = null;
      elsewhere = [];
      if (asked) void ask(asked);
    });
  });

  /** Without the networks there are no faces, and nothing is offered. */
  async function ask(place: Vector): Promise<void> {
    const path = { photo_id: studio.photo.id };
    const body = { at: place };
    const found = await call('post', '/api/photos/{photo_id}/people/same-skin', {
      path,
      body,
    }).catch(() => null);
    if (at !== place) return;
    places = found;
    if (!found) return;
    const { who } = found;
    const asked = { path: { ...path, who } };
    const others = await call('get', '/api/photos/{photo_id}/people/{who}/elsewhere', asked);
    if (at === place) elsewhere = others;
  }

  function take(place: Vector): void {
    studio.tool = 'reference';
    void studio.sampler.take(place, { adding: false, leaving: false });
  }

  function mark(place: Vector | null): void {
    studio.marked = place ? { at: place, text: 'this' } : null;
  }
</script>

{#if offers.length}
  <div class="mt-1.5 flex flex-wrap gap-1" role="group" aria-label="References on the same face">
    {#each offers as [label, place] (label)}
      <button
        class="button"
        onpointerenter={() => mark(place)}
        onpointerleave={() => mark(null)}
        onclick={() => {
          mark(null);
          take(place);
        }}>{label}</button
      >
    {/each}
    {#each elsewhere as { photo, title, colour } (photo)}
      <button
        class="button flex items-center gap-1.5"
        title="The skin there is about the same; whose it is, nobody compares"
        onclick={() => {
          studio.tool = 'reference';
          studio.sampler.fromPhoto(title, colour);
        }}
      >
        <span class="h-3 w-3 border border-ink2" style:background={swatch(colour)}></span>
        Skin in {title}
      </button>
    {/each}
  </div>
{/if}
