<script lang="ts">
  import { useStudio } from '../studio/studio.svelte';

  /** Where the look lies among the casts: those above act before it, those below after it. */
  const studio = useStudio();
  const look = $derived(studio.recipe.look);
  const chosen = $derived(studio.settingLook);
  const summary = $derived.by(() => {
    if (!look) return 'none laid';
    const name = look.table.name || 'a table';
    return look.on ? `${name}, ${(look.amount * 100).toFixed(0)} %` : `off (${name})`;
  });
</script>

<button
  class="flex w-full items-baseline gap-2 border px-2.5 py-1.5 text-left {chosen
    ? 'border-ink bg-ink text-inverse'
    : 'border-line bg-raised'}"
  aria-pressed={chosen}
  title="Colours of the whole photo through a table, between the casts before and after it"
  onclick={() => studio.chooseLook()}
>
  <span class="font-semibold">Look</span>
  <span class="truncate text-small {chosen ? 'text-inverse2' : 'text-ink2'}">{summary}</span>
</button>
