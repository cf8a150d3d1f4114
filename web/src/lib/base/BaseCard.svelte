<script lang="ts">
  import { useStudio } from '../studio/studio.svelte';
  import { summaryOf } from './base';

  const studio = useStudio();
  const chosen = $derived(studio.settingBase);
</script>

<button
  class="flex w-full items-baseline gap-2 border px-2.5 py-1.5 text-left {chosen
    ? 'border-ink bg-ink text-inverse'
    : 'border-line bg-raised'}"
  aria-pressed={chosen}
  title="Light and tone of the whole photo, set before its casts"
  onclick={() => studio.chooseBase()}
>
  <span class="font-semibold">Base</span>
  <span class="truncate text-small {chosen ? 'text-inverse2' : 'text-ink2'}">
    {summaryOf(studio.recipe.base)}
  </span>
</button>
