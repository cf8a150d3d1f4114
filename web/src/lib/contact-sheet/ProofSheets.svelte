<script lang="ts">
  import { onMount } from 'svelte';
  import PopoverPanel from '../controls/PopoverPanel.svelte';
  import Progress from '../controls/Progress.svelte';
  import { SheetMaker } from './sheet-maker.svelte';

  /** The proof of all treated photos, once each one's is made. */
  let { shootId }: { shootId: number } = $props();
  // One bar is made per shoot.
  // svelte-ignore state_referenced_locally
  const maker = new SheetMaker(shootId);
  const { following } = maker;
  const known = $derived(maker.known);
  const job = $derived(following.job);
  const missing = $derived(known?.missing.length ?? 0);
  const trouble = $derived(maker.trouble || following.reason);
  onMount(() => () => following.close());
  const files = [
    ['pdf', 'PDF'],
    ['json', 'Figures as JSON'],
    ['csv', 'Figures as CSV'],
  ] as const;
  const photos = (count: number): string => (count === 1 ? '1 photo' : `${count} photos`);
</script>

<PopoverPanel
  label="Proof sheets"
  look="quiet whitespace-nowrap"
  room="w-[300px]"
  title="The proof of all treated photos"
  onopen={() => void maker.load()}
>
  {#snippet button()}Proof sheet{/snippet}
  {#if trouble}<p class="mb-2" role="alert">{trouble}.</p>{/if}
  {#if job && following.running}
    <Progress
      label="Making proof sheets"
      text={job.cancelled
        ? 'Stopping'
        : `Proving ${Math.min(job.done + 1, job.total)} of ${job.total}`}
      done={job.done}
      total={job.total}
      oncancel={() => following.cancel()}
    />
  {:else if known && !known.treated}
    <p>No photo of this shoot has a cast yet.</p>
  {:else if known && missing}
    <p class="mb-2">{photos(missing)} of {known.treated} still to be proved.</p>
    <button class="button strong tall" onclick={() => maker.make()}>Prove the rest</button>
  {:else if known}
    <p class="mb-2">The proof of {photos(known.treated)}.</p>
    <span class="flex flex-wrap gap-2">
      <a class="button strong tall" href="/api/shoots/{shootId}/report.html" target="_blank">Read</a
      >
      {#each files as [form, label] (form)}
        <a class="button tall" href="/api/shoots/{shootId}/report.{form}" download>{label}</a>
      {/each}
    </span>
  {/if}
</PopoverPanel>
