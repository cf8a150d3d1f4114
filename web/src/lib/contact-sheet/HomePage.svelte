<script lang="ts">
  import { onMount } from 'svelte';
  import { call, reasonOf } from '../api/client';
  import { router } from '../router.svelte';
  import DeletedShoots from './DeletedShoots.svelte';
  import MakeShoot from './MakeShoot.svelte';

  let empty = $state(false);
  let trouble = $state('');
  let deleted = $state(false);
  let showDeleted = $state(false);

  onMount(async () => {
    try {
      const shoots = await call('get', '/api/shoots');
      const latest = shoots[0];
      if (latest) router.go(`/shoots/${latest.id}`, true);
      else {
        empty = true;
        deleted = (await call('get', '/api/removed-shoots')).length > 0;
      }
    } catch (error) {
      trouble = reasonOf(error);
    }
  });
</script>

{#if trouble}
  <p class="p-8 text-lead" role="alert">{trouble}. Please reload the page.</p>
{:else if empty}
  <main class="flex h-full flex-col items-center justify-center gap-4">
    <p class="text-lead">A shoot holds the photos that belong together. Name the first one.</p>
    <MakeShoot />
    {#if deleted}
      <button class="quiet" onclick={() => (showDeleted = true)}>Deleted shoots…</button>
    {/if}
  </main>
  <DeletedShoots bind:open={showDeleted} />
{/if}
