<script lang="ts">
  import type { Account } from './account.svelte';

  /** A password to begin with, which is told only now. */
  let { account }: { account: Account } = $props();
  const given = $derived(account.given);
</script>

{#if given}
  <div class="mb-4 flex items-center gap-4 border border-ink bg-raised p-3" role="status">
    <p class="min-w-0 flex-1">
      Tell <strong>{given.person}</strong> this password; it is not shown again, and another is
      chosen with it: <code class="ml-1 text-lead select-all">{given.password}</code>
    </p>
    <button class="button" onclick={() => (account.given = null)}>It is told</button>
  </div>
{/if}
