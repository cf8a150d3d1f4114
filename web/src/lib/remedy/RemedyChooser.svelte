<script lang="ts">
  import { KINDS } from '../../generated/kinds';
  import { capital, type RemedyKind } from '../recipe/kinds';
  import { REMEDIES } from './descriptors';

  /** What can be done, each with a small drawing and what it is for. It lies in the station, not on the photo. */
  let { onchoose, onleave }: { onchoose: (kind: RemedyKind) => void; onleave: () => void } =
    $props();
  let list: HTMLUListElement;

  $effect(() => list.querySelector('button')?.focus());
</script>

<ul
  bind:this={list}
  class="grid grid-cols-[repeat(auto-fill,minmax(176px,1fr))] gap-x-2"
  aria-label="Add a remedy"
>
  {#each REMEDIES as { kind, purpose, drawing } (kind)}
    <li>
      <button
        class="flex w-full items-center gap-2 px-1 py-[3px] text-left hover:bg-field"
        onclick={() => onchoose(kind)}
        onkeydown={(event) => {
          if (event.key !== 'Escape') return;
          event.stopPropagation();
          onleave();
        }}
      >
        <svg class="h-6 w-6 shrink-0" viewBox="0 0 24 24" aria-hidden="true">
          <path d={drawing} fill="none" stroke="currentColor" stroke-width="1.5" />
        </svg>
        <span class="min-w-0">
          <span class="block font-semibold">{capital(KINDS.remedies[kind].name)}</span>
          <span class="block truncate text-small text-ink2">{purpose}</span>
        </span>
      </button>
    </li>
  {/each}
</ul>
