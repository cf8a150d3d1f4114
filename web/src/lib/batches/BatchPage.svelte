<script lang="ts">
  import { onMount } from 'svelte';
  import Progress from '../controls/Progress.svelte';
  import { link } from '../router.svelte';
  import { Proposed } from './batch.svelte';
  import FrameStage from './FrameStage.svelte';
  import ProposalList from './ProposalList.svelte';

  let { batchId }: { batchId: string } = $props();
  // One page is made per batch.
  // svelte-ignore state_referenced_locally
  const proposed = new Proposed(batchId);
  const { following } = proposed;
  const job = $derived(following.job);

  const WHAT: Record<string, string> = {
    adopt: 'What was found',
    carry: 'Carried over',
    follow: 'Followed',
  };
  const name = $derived.by(() => {
    const { batch } = proposed;
    if (!batch) return '';
    const source = batch.proposals.find((p) => p.photo === batch.source);
    const what = WHAT[batch.kind] ?? '';
    return source ? `${what} from ${source.title}` : what;
  });

  onMount(() => {
    void proposed.load();
    return () => proposed.close();
  });

  function keydown(event: KeyboardEvent): void {
    const on = event.target as HTMLElement;
    if (on.closest('input, select, [role="dialog"]') || event.ctrlKey || event.metaKey) return;
    if (event.key === 'ArrowDown' || event.key === 'ArrowRight') proposed.go(proposed.at + 1);
    else if (event.key === 'ArrowUp' || event.key === 'ArrowLeft') proposed.go(proposed.at - 1);
    else if (event.key === 'Home') proposed.go(0);
    else if (event.key === 'End') proposed.go(proposed.proposals.length - 1);
    else if (event.key === ' ' && !on.closest('button, a')) proposed.play(!proposed.playing);
    else return;
    event.preventDefault();
  }
</script>

<svelte:window onkeydown={keydown} />
<svelte:head><title>{name || 'Proposed'} · Nubilis</title></svelte:head>

<div class="flex h-full flex-col">
  <header class="flex h-12 shrink-0 items-center gap-3 border-b border-line px-4">
    <a href="/" use:link class="text-[16px] font-bold">Nubilis</a>
    {#if proposed.batch}
      <a href="/shoots/{proposed.batch.shoot}" use:link class="quiet max-w-[300px] text-lead"
        ><span class="truncate">{proposed.batch.shoot_name}</span></a
      >
      <h1 class="min-w-0 truncate text-lead font-semibold">{name}</h1>
    {/if}
    <span class="flex-1"></span>
    {#if job && following.running}
      <Progress
        label="Proposing"
        text={job.cancelled ? 'Stopping' : job.state === 'waiting' ? 'Waiting' : 'Proposing'}
        done={job.share}
        total={1}
        oncancel={() => following.cancel()}
      />
    {:else if proposed.batch}
      {#if following.leftOff}
        <button class="button tall" onclick={() => proposed.again()}>Propose the rest</button>
      {/if}
      {#if proposed.corrected}
        <button class="button strong tall" onclick={() => proposed.again()}
          >Follow anew by what was corrected</button
        >
      {/if}
      {#if proposed.taken.length}
        <button class="button tall" onclick={() => proposed.takeBack()}
          >Take all {proposed.taken.length} back</button
        >
      {/if}
      {#if proposed.open.length}
        <button
          class="button tall {proposed.corrected ? '' : 'strong'}"
          onclick={() => proposed.take(null)}>Take all {proposed.open.length}</button
        >
      {/if}
    {/if}
  </header>
  {#each [proposed.trouble, following.reason].filter(Boolean) as text (text)}
    <p role="alert" class="notched m-3 w-fit bg-attention py-1 pr-3 text-inverse">{text}</p>
  {/each}
  {#if proposed.told}
    <p role="status" class="border-b border-line bg-raised px-4 py-1.5">{proposed.told}</p>
  {/if}
  {#if proposed.batch}
    <main class="flex min-h-0 flex-1">
      <ProposalList {proposed} />
      {#if proposed.proposal}<FrameStage {proposed} />{/if}
    </main>
  {/if}
</div>
