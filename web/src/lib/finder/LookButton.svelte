<script lang="ts">
  import Progress from '../controls/Progress.svelte';
  import { useStudio } from '../studio/studio.svelte';

  const studio = useStudio();
  const finder = studio.finder;
</script>

{#if finder.done !== null}
  <Progress
    label="Looking for casts"
    text="Looking"
    done={finder.done}
    total={1}
    oncancel={() => finder.cancel()}
  />
{:else}
  {#if finder.trouble}
    <p role="alert" class="notched mb-2 bg-attention py-1 pr-2 text-small text-inverse">
      {finder.trouble}
    </p>
  {/if}
  <div class="flex gap-2">
    <button
      class="button tall flex-1 px-2"
      class:strong={!finder.survey}
      onclick={() => studio.tell({})}>{finder.survey ? 'Look again' : 'Look for casts'}</button
    >
    <button class="button tall px-2" onclick={() => studio.beginCast()}>New cast</button>
  </div>
{/if}
