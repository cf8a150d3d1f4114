<script lang="ts">
  import type { Arrival } from '../api/types';
  import { link } from '../router.svelte';

  /** What arrived, the latest first, and what became of it. */
  let { arrivals }: { arrivals: Arrival[] } = $props();

  function told(arrival: Arrival): string {
    if (arrival.reason) return arrival.reason;
    if (arrival.photo?.preview) return 'being developed';
    if (arrival.photo) return arrival.photo.revision ? 'taken in, treated' : 'taken in';
    return arrival.state === 'done' ? 'removed since' : 'being taken in';
  }
  const time = (made: string): string => new Date(made).toLocaleTimeString('en-GB');
</script>

<section class="flex min-h-0 flex-1 flex-col p-4" aria-label="Arrivals">
  <h2 class="font-semibold">Arrivals</h2>
  <ul class="mt-1.5 min-h-0 flex-1 overflow-y-auto">
    {#each arrivals as arrival (arrival.made + arrival.file)}
      <li class="flex gap-3 border-b border-line py-1.5">
        <span class="text-ink2 tabular-nums">{time(arrival.made)}</span>
        <span class="min-w-0 flex-1">
          {#if arrival.photo}
            <a class="font-semibold hover:underline" href="/photos/{arrival.photo.id}" use:link
              >{arrival.file}</a
            >
          {:else}
            <span class="font-semibold">{arrival.file}</span>
          {/if}
          <span class="block {arrival.reason ? 'text-attention' : 'text-ink2'}"
            >{told(arrival)}</span
          >
        </span>
      </li>
    {:else}
      <li class="text-ink2">Nothing yet</li>
    {/each}
  </ul>
</section>
