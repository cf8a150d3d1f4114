<script lang="ts">
  import type { LibraryEntry } from '../api/types';
  import { swatch } from '../instruments/swatch';
  import { link } from '../router.svelte';
  import { GROUPS, type Library } from './library.svelte';

  /** The library as patches in groups: a click takes one. */
  let { library, onpick }: { library: Library; onpick: (entry: LibraryEntry) => void } = $props();
  let hovered = $state<LibraryEntry | null>(null);
</script>

{#each GROUPS as [group, label] (group)}
  {@const entries = library.of(group)}
  {#if entries.length}
    <h3 class="mb-1 text-small font-semibold">{label}</h3>
    <div class="mb-2 flex flex-wrap gap-1">
      {#each entries as entry, i (entry.id ?? -i)}
        <button
          class="h-8 w-10 hover:ring-2 hover:ring-ink"
          style:background={swatch(entry.colour)}
          aria-label={entry.name}
          onpointerenter={() => (hovered = entry)}
          onfocus={() => (hovered = entry)}
          onclick={() => onpick(entry)}
        ></button>
      {/each}
    </div>
  {/if}
{/each}
<p class="flex min-h-[36px] items-end gap-2 text-small text-ink2">
  <span class="min-w-0 flex-1">
    {#if hovered}
      <span class="font-semibold text-ink">{hovered.name}</span>
      {hovered.colour.lab.map((v) => v.toFixed(1)).join(' ')}
      {hovered.id === null ? 'built in' : hovered.shoot_name || 'every shoot'}
    {:else}
      Taken at the sample's own lightness.
    {/if}
  </span>
  <a class="quiet underline" href="/references" use:link>References</a>
</p>
