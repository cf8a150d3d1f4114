<script lang="ts">
  import PopoverPanel from '../controls/PopoverPanel.svelte';
  import { call } from '../api/client';
  import type { HistoryStep } from '../api/types';
  import { useStudio } from '../studio/studio.svelte';

  /** Every step of the work on the photo, in words; any of them can be gone back to. */
  const studio = useStudio();
  let steps = $state.raw<HistoryStep[]>([]);
  let more = $state(false);
  let open = $state(false);
  const AT_A_TIME = 100;
  const hour = new Intl.DateTimeFormat('en-GB', { timeStyle: 'short' });
  const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });

  /** The day only where it is another than today. */
  function when(made: string): string {
    const at = new Date(made);
    const time = hour.format(at);
    return day.format(at) === day.format(new Date()) ? time : `${day.format(at)}, ${time}`;
  }

  function load(before?: number): void {
    void studio.attempt(async () => {
      await studio.saver.settled();
      const path = { photo_id: studio.photo.id };
      const query = { before };
      const found = await call('get', '/api/photos/{photo_id}/history', { path, query });
      steps = before === undefined ? found : [...steps, ...found];
      more = found.length === AT_A_TIME;
    });
  }

  function goTo(number: number): void {
    void studio.attempt(async () => {
      const { revision } = studio.saver;
      const path = { photo_id: studio.photo.id };
      const body = { revision, number };
      studio.adoptState(await call('post', '/api/photos/{photo_id}/go-to', { path, body }));
      open = false;
    });
  }
</script>

<PopoverPanel
  label="History"
  name="History"
  title="History, step by step"
  look="button tall px-2"
  room="flex max-h-[560px] w-[400px] flex-col"
  bind:open
  onopen={() => load()}
>
  {#snippet button()}<span aria-hidden="true">▾</span>{/snippet}

  <h2 class="mb-1 font-semibold">History</h2>
  <ol class="min-h-0 flex-1 overflow-y-auto" aria-label="Steps, newest first">
    {#each steps as step, i (step.number)}
      <li class="border-t border-line">
        <button
          class="flex w-full items-baseline gap-2 py-1.5 text-left hover:underline"
          aria-current={i === 0 ? 'step' : undefined}
          disabled={i === 0}
          onclick={() => goTo(step.number)}
        >
          <span class="min-w-0 flex-1" class:font-semibold={i === 0}>
            {step.taken_back ? 'Taken back: ' : ''}{step.words.slice(0, 3).join('; ')}{step.words
              .length > 3
              ? ` and ${step.words.length - 3} more`
              : ''}
          </span>
          <span class="text-small whitespace-nowrap text-ink2">
            {i === 0 ? 'now' : when(step.made)}
          </span>
        </button>
      </li>
    {:else}
      <li class="border-t border-line py-1.5 text-ink2">Nothing was done yet.</li>
    {/each}
    {#if more}
      <li class="border-t border-line py-1.5">
        <button class="button" onclick={() => load(steps.at(-1)?.number)}>Earlier steps</button>
      </li>
    {:else if steps.length}
      <li class="border-t border-line py-1.5">
        <button class="text-left hover:underline" onclick={() => goTo(0)}
          >The photo as it came</button
        >
      </li>
    {/if}
  </ol>
  <p class="mt-2 text-small text-ink2">Going back is a step itself, and can be undone.</p>
</PopoverPanel>
