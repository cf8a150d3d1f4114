<script lang="ts">
  /** In the rail: what is done to the whole photo, before its casts or between them. */
  interface Props {
    name: string;
    summary: string;
    title: string;
    chosen: boolean;
    onclick: () => void;
  }
  let { name, summary, title, chosen, onclick }: Props = $props();
</script>

<button
  class="flex w-full items-baseline gap-2 border px-2.5 py-1.5 text-left {chosen
    ? 'border-ink bg-ink text-inverse'
    : 'border-line bg-raised'}"
  aria-pressed={chosen}
  {title}
  {onclick}
>
  <span class="font-semibold">{name}</span>
  <span class="truncate text-small {chosen ? 'text-inverse2' : 'text-ink2'}">{summary}</span>
</button>
