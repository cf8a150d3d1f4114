<script lang="ts">
  import { call, reasonOf } from '../api/client';
  import type { Job, Shoot } from '../api/types';
  import { pointerRests } from '../controls/resting';
  import { doing } from '../jobs/following.svelte';

  /** Long work that others run on a shoot of one's own, to see and to stop. */
  let { shoot }: { shoot: Shoot } = $props();
  const EVERY_MS = 2000;
  let jobs = $state.raw<Job[]>([]);
  let reason = $state('');
  const others = $derived(jobs.filter((job) => job.person !== shoot.owner));

  $effect(() => {
    const path = { shoot_id: shoot.id };
    let timer = 0;
    let ended = false;
    async function look(): Promise<void> {
      try {
        const now = await call('get', '/api/shoots/{shoot_id}/work', { path });
        await pointerRests();
        if (!ended) jobs = now;
      } catch {
        // The server may be away for a moment; the list stays as it was.
      }
      if (!ended) timer = window.setTimeout(() => void look(), EVERY_MS);
    }
    void look();
    return () => {
      ended = true;
      clearTimeout(timer);
    };
  });

  async function stop(job: Job): Promise<void> {
    reason = '';
    try {
      await call('delete', '/api/jobs/{job_id}', { path: { job_id: job.id } });
      jobs = jobs.filter((one) => one !== job);
    } catch (error) {
      reason = reasonOf(error);
    }
  }
</script>

{#if others.length}
  <h3 class="mt-3 font-semibold">Running now</h3>
  <ul aria-label="Running now">
    {#each others as job (job.id)}
      <li class="flex items-center gap-3 border-t border-line py-1.5">
        <span class="min-w-0 flex-1 truncate">
          <span class="font-semibold">{job.person}</span>: {doing(job)}
        </span>
        <span class="figures text-ink2">{job.done} of {job.total}</span>
        <button
          class="button"
          aria-label="Stop {job.person}: {doing(job)}"
          onclick={() => void stop(job)}
        >
          Stop
        </button>
      </li>
    {/each}
  </ul>
{/if}
{#if reason}<p role="alert" class="mt-2 text-attention">{reason}</p>{/if}
