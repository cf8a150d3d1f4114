<script lang="ts">
  import { getContext, type Snippet } from 'svelte';
  import type { Place, StationName } from '../studio/bench.svelte';
  import { useStudio } from '../studio/studio.svelte';

  interface Props {
    number: number;
    title: string;
    /** Of those that fold: which one it is, and what it holds, a line for each thing. */
    name?: StationName;
    lines?: string[];
    /** What in it wants to be looked at. */
    attention?: string;
    aside?: Snippet;
    children: Snippet;
  }
  let { number, title, name, lines = [], attention, aside, children }: Props = $props();
  const { bench } = useStudio();
  const place = getContext<Place | undefined>('place') ?? 'bench';
  const open = $derived(!name || bench.opens(name, place));
</script>

{#snippet heading()}
  <span
    class="flex h-5 w-5 shrink-0 items-center justify-center bg-ink text-[11px] font-bold text-inverse"
    >{number}</span
  >
  <h2 class="font-semibold">{title}</h2>
{/snippet}

{#snippet notch(text: string)}
  <span class="notched shrink-0 self-start bg-attention pr-2 leading-[19px] text-inverse"
    >{text}</span
  >
{/snippet}

{#if open}
  <section
    class="flex min-h-0 flex-col border-l border-line px-3 pt-2 first:border-l-0 xl:px-3.5"
    aria-label={title}
    onpointerdowncapture={() => name && (bench.station = name)}
    onfocusin={() => name && (bench.station = name)}
  >
    <header
      class="mb-1 flex min-h-[28px] shrink-0 items-center gap-x-2 {place === 'sheet'
        ? 'flex-wrap'
        : ''}"
    >
      {@render heading()}
      <span class="flex-1"></span>
      {@render aside?.()}
    </header>
    <div class="@container min-h-0 flex-1 overflow-y-auto pb-2">{@render children()}</div>
  </section>
{:else if place === 'strip'}
  <button
    class="flex min-w-0 items-center gap-2 border-l border-line px-3 text-left first:border-l-0 aria-expanded:bg-raised"
    aria-expanded={bench.station === name}
    onclick={() => name && (bench.station = name)}
  >
    {@render heading()}
    <span class="min-w-0 truncate text-ink2">{lines.join(', ')}</span>
    {#if attention}{@render notch(attention)}{/if}
  </button>
{:else}
  <button
    class="flex min-h-0 min-w-0 flex-col items-stretch overflow-hidden border-l border-line bg-[var(--folded)] px-3 pt-2 text-left first:border-l-0 hover:bg-panel"
    aria-expanded="false"
    onclick={() => name && (bench.station = name)}
  >
    <span class="mb-1.5 flex h-[28px] shrink-0 items-center gap-2">{@render heading()}</span>
    {#each lines as line, i (i)}<span class="block leading-[19px]">{line}</span>{/each}
    {#if attention}{@render notch(attention)}{/if}
  </button>
{/if}
