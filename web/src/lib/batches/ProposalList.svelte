<script lang="ts">
  import type { Proposed } from './batch.svelte';

  /** Every photo as it is and as it would be, with what is to be known of it. */
  let { proposed }: { proposed: Proposed } = $props();
  let list: HTMLElement;

  $effect(() => {
    list.querySelectorAll('li')[proposed.at]?.scrollIntoView({ block: 'nearest' });
  });

  const EDGE = 240;
</script>

<nav
  class="w-[340px] shrink-0 overflow-y-auto border-r border-line bg-panel"
  aria-label="What is proposed"
>
  <ol bind:this={list}>
    {#each proposed.proposals as proposal, i (proposal.photo)}
      {@const here = i === proposed.at}
      <li class="border-b border-line {here ? 'bg-ink text-inverse' : ''}">
        <button
          class="flex w-full flex-col gap-1 px-3 pt-2 text-left"
          aria-current={here}
          onclick={() => proposed.go(i)}
        >
          <span class="grid w-full grid-cols-2 gap-1">
            {#each ['before', 'now'] as const as show (show)}
              <img
                class="aspect-[3/2] w-full bg-surround object-contain"
                src={show === 'before'
                  ? `/api/photos/${proposal.photo}/thumbnail?revision=${proposal.revision}`
                  : proposed.picture(proposal, 'now', EDGE)}
                alt=""
                loading="lazy"
                decoding="async"
              />
            {/each}
          </span>
          <span class="flex w-full items-baseline gap-2">
            <span class="min-w-0 flex-1 truncate font-semibold">{proposal.title}</span>
            {#if proposal.before !== null && proposal.after !== null}
              <span>{proposal.before.toFixed(1)} → {proposal.after.toFixed(1)}</span>
            {/if}
          </span>
        </button>
        <div class="flex min-h-[30px] items-center gap-2 px-3 pb-2">
          {#if proposal.check}
            <span class="notched shrink-0 bg-attention py-0.5 pr-2 text-small text-inverse"
              >check this</span
            >
          {:else if proposal.key && proposal.proposed}
            <span class="shrink-0 font-semibold">by hand</span>
          {:else if proposal.proposed && proposed.follows}
            <span class="shrink-0 {here ? 'text-inverse2' : 'text-ink2'}"
              >{Math.round(proposal.confidence * 100)} % sure</span
            >
          {/if}
          <span
            class="min-w-0 flex-1 truncate {here ? 'text-inverse2' : 'text-ink2'}"
            title={proposal.note}>{proposal.note}</span
          >
          {#if proposal.taken}
            <span class="shrink-0">taken</span>
          {:else if proposal.proposed}
            <button
              class="button shrink-0"
              aria-label="Take {proposal.title}"
              onclick={() => proposed.take([proposal.photo])}>Take</button
            >
          {/if}
        </div>
      </li>
    {/each}
  </ol>
</nav>
