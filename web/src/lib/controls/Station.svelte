<script lang="ts">
  import type { Snippet } from 'svelte';

  interface Props {
    number: number;
    title: string;
    aside?: Snippet;
    /** Its aside is long: where there is little room, the number stands for the title. */
    tight?: boolean;
    children: Snippet;
  }
  let { number, title, aside, tight = false, children }: Props = $props();
</script>

<section
  class="flex min-h-0 flex-col border-l border-line px-3 pt-2 xl:px-3.5 first:border-l-0"
  aria-label={title}
>
  <header class="mb-1 flex h-[28px] shrink-0 items-center gap-2">
    <span
      class="flex h-5 w-5 shrink-0 items-center justify-center bg-ink text-[11px] font-bold text-inverse"
      >{number}</span
    >
    <h2 class="font-semibold" class:max-xl:sr-only={tight}>{title}</h2>
    <span class="flex-1"></span>
    {@render aside?.()}
  </header>
  <div class="min-h-0 flex-1 overflow-y-auto pb-2">{@render children()}</div>
</section>
