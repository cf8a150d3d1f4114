<script lang="ts">
  import WholeCard from '../casts/WholeCard.svelte';
  import { useStudio } from '../studio/studio.svelte';
  import { summaryOf } from './base';

  const studio = useStudio();
</script>

<WholeCard
  name="Base"
  summary={summaryOf(studio.recipe.base)}
  title="Light and tone of the whole photo, set before its casts"
  chosen={studio.settingBase}
  onclick={() => studio.chooseBase()}
/>
