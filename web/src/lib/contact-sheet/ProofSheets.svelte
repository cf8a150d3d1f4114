<script lang="ts">
  import PopoverPanel from '../controls/PopoverPanel.svelte';
  import Progress from '../controls/Progress.svelte';
  import { SheetMaker } from './sheet-maker.svelte';

  /** The proof of all treated photos, once each one's is made. */
  let { shootId }: { shootId: number } = $props();
  // One bar is made per shoot.
  // svelte-ignore state_referenced_locally
  const maker = new SheetMaker(shootId);
  const { known, done } = $derived(maker);
  const missing = $derived(known?.missing.length ?? 0);
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
  {#if maker.trouble}<p class="mb-2" role="alert">{maker.trouble}.</p>{/if}
  {#if done !== null}
    <Progress
      label="Making proof sheets"
      text="Proving {Math.min(done + 1, missing)} of {missing}"
      {done}
      total={missing}
      oncancel={() => maker.cancel()}
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
