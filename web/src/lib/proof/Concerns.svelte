<script lang="ts">
  import type { Concern } from '../api/types';
  import { useStudio } from '../studio/studio.svelte';

  /** What looks over- or underdone, where, and one button that helps. */
  let { concerns }: { concerns: Concern[] } = $props();
  const studio = useStudio();
  const buttons: Record<Concern['act'], string> = {
    less: 'Less',
    soften: 'Soften',
    exclude: 'Exclude',
    'leave-out': 'Remove it',
    'own-cast': 'Cast of its own',
    more: 'All of it',
    even: 'Follow less',
    sample: 'Another sample',
  };

  function mark(concern: Concern | null): void {
    studio.marked = concern?.at ? { at: concern.at, text: 'here' } : null;
  }
</script>

<ul class="mb-1.5 flex flex-col gap-1" aria-label="Concerns">
  {#each concerns as concern (concern.text)}
    <li
      class="notched flex min-h-[26px] items-center gap-2 bg-attention py-0.5 pr-1 text-small text-inverse"
      onpointerenter={() => mark(concern)}
      onpointerleave={() => mark(null)}
    >
      <span class="min-w-0 flex-1 leading-tight">{concern.text}.</span>
      <button
        class="quiet shrink-0 border border-current px-1.5"
        onfocus={() => mark(concern)}
        onblur={() => mark(null)}
        onclick={() => {
          mark(null);
          void studio.tame(concern);
        }}>{buttons[concern.act]}</button
      >
    </li>
  {/each}
</ul>
