<script lang="ts">
  import WholeCard from '../casts/WholeCard.svelte';
  import { useStudio } from '../studio/studio.svelte';

  /** Where the look lies among the casts: those above act before it, those below after it. */
  const studio = useStudio();
  const look = $derived(studio.recipe.look);
  const summary = $derived.by(() => {
    if (!look) return 'none laid';
    const name = look.table.name || 'a table';
    return look.on ? `${name}, ${(look.amount * 100).toFixed(0)} %` : `off (${name})`;
  });
</script>

<WholeCard
  name="Look"
  {summary}
  title="Colours of the whole photo through a table, between the casts before and after it"
  chosen={studio.settingLook}
  onclick={() => studio.chooseLook()}
/>
