<script lang="ts">
  import type { LibraryEntry } from '../api/types';
  import { swatch } from '../instruments/swatch';

  /** Colours that are built in, side by side as a scale. */
  let { entries }: { entries: LibraryEntry[] } = $props();
</script>

<ul class="mb-3 grid auto-cols-fr grid-flow-col">
  {#each entries as { name, colour } (name)}
    <li class="flex flex-col">
      <span class="h-14" style:background={swatch(colour)}></span>
      <span class="truncate pt-1 pr-2 text-small">{name}</span>
      <span class="text-small text-ink2">{colour.lab.map((v) => v.toFixed(0)).join(' ')}</span>
    </li>
  {/each}
</ul>
