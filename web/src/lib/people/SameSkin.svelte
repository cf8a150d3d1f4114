<script lang="ts">
  import { untrack } from 'svelte';
  import { call } from '../api/client';
  import type { SamePlaces, Vector } from '../api/types';
  import { waitingPair } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';

  /** While a tainted place on a face waits for its reference: where else that skin is, one click each. */
  const studio = useStudio();
  let places = $state.raw<SamePlaces | null>(null);
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
    if (at === place) places = found;
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
  </div>
{/if}
