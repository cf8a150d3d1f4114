<script lang="ts">
  import type { Account } from './account.svelte';

  let { account }: { account: Account } = $props();
  let name = $state('');
  let owner = $state(false);

  async function make(event: Event): Promise<void> {
    event.preventDefault();
    if (await account.make(name, owner)) {
      name = '';
      owner = false;
    }
  }
</script>

<form class="flex items-center gap-3" onsubmit={make}>
  <input
    class="field min-h-[28px] w-[200px]"
    aria-label="Name of the new account"
    placeholder="Name"
    maxlength="150"
    required
    bind:value={name}
  />
  <label class="flex items-center gap-2">
    <input class="h-4 w-4 accent-[var(--ink)]" type="checkbox" bind:checked={owner} />
    looks after accounts
  </label>
  <button class="button tall">Make account</button>
</form>
