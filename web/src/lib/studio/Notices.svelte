<script lang="ts">
  import { useStudio } from './studio.svelte';

  const studio = useStudio();
</script>

<div class="pointer-events-none absolute inset-x-0 top-3 flex flex-col items-center gap-2">
  {#if studio.saver.status === 'conflict'}
    <div
      class="notched pointer-events-auto flex items-center gap-3 bg-danger py-1.5 pr-3 text-inverse"
      role="alert"
    >
      This photo was changed in another window; your last steps are not saved over it.
      <button class="quiet underline" onclick={() => studio.resolve(true)}>Put mine on top</button>
      <button class="quiet underline" onclick={() => studio.resolve(false)}>Take theirs</button>
    </div>
  {:else if studio.saver.status === 'refused'}
    <ul class="pointer-events-auto flex flex-col gap-2" role="alert">
      {#each studio.saver.refused as step (step.key)}
        <li class="notched flex items-center gap-3 bg-danger py-1.5 pr-3 text-inverse">
          Not saved: {step.what}. {step.reason}
          <button class="quiet underline" onclick={() => studio.saver.tryAgain(step)}
            >Try again</button
          >
          <button class="quiet underline" onclick={() => void studio.dropRefused()}
            >Drop this change</button
          >
        </li>
      {/each}
    </ul>
  {/if}
  {#if studio.trouble}
    <div
      class="notched pointer-events-auto flex items-center gap-3 bg-attention py-1.5 pr-3 text-inverse"
      role="alert"
    >
      {studio.trouble.text}
      <button class="quiet" aria-label="Close this notice" onclick={() => (studio.trouble = null)}
        >×</button
      >
    </div>
  {/if}
</div>
{#if studio.saver.status === 'trying'}
  <div
    class="absolute bottom-3 left-3 flex items-center gap-3 bg-ink px-3 py-1.5 text-inverse"
    role="status"
  >
    Shared by {studio.opened.owner} to look at: try what you like, nothing is saved.
    <button class="quiet underline" onclick={() => void studio.asSaved()}>As it is saved</button>
  </div>
{/if}
