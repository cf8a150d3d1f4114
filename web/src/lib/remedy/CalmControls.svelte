<script lang="ts">
  import { untrack, type Snippet } from 'svelte';
  import { call } from '../api/client';
  import { LatestWins } from '../api/latest-wins';
  import type { Grain, Recipe } from '../api/types';
  import { useStudio } from '../studio/studio.svelte';

  /** The grain inside the mask, as it is before it is calmed, and around it. */
  let { settings }: { settings: Snippet } = $props();
  const studio = useStudio();
  let grain = $state.raw<Grain | null>(null);

  const asked = new LatestWins<{ recipe: Recipe; cast: string; remedy: string }>(async (body) => {
    const path = { photo_id: studio.photo.id };
    await studio.attempt(async () => {
      grain = await call('post', '/api/photos/{photo_id}/grain', { path, body });
    });
  });

  $effect(() => {
    const { recipe, castId, moving } = studio;
    const remedy = studio.remedy?.id;
    if (castId && remedy && !moving) untrack(() => asked.want({ recipe, cast: castId, remedy }));
  });
</script>

<div class="grid grid-cols-[repeat(auto-fit,minmax(220px,1fr))] gap-x-5">
  <div>{@render settings()}</div>
  <div>
    {#if grain?.inside && grain.around}
      <table class="mt-1 w-full max-w-[300px]" data-testid="grain">
        <thead class="text-left text-ink2">
          <tr
            ><th class="font-normal">Grain, L*</th><th class="font-normal">inside</th>
            <th class="font-normal">around</th></tr
          >
        </thead>
        <tbody>
          {#each ['lightness', 'colour'] as name, i (name)}
            <tr>
              <td>{name}</td>
              <td>{grain.inside[i]?.toFixed(2)}</td>
              <td>{grain.around[i]?.toFixed(2)}</td>
            </tr>
          {/each}
        </tbody>
      </table>
      <p class="mt-1 text-ink2">
        100 % leaves what lies around, so that no smooth patch shows; 200 % leaves none.
      </p>
    {:else}
      <p class="mt-1 text-ink2">Mask something: its grain is measured, and that around it.</p>
    {/if}
  </div>
</div>
