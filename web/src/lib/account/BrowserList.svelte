<script lang="ts">
  import type { Account } from './account.svelte';
  import { lately } from './lately';

  /** Where one is signed in. */
  let { account }: { account: Account } = $props();
</script>

<ul aria-label="Browsers that are signed in">
  {#each account.browsers as browser (browser.id)}
    <li class="flex items-center gap-3 border-t border-line py-2">
      <span class="min-w-0 flex-1">
        <span class="block truncate" class:font-semibold={browser.here}>
          {browser.browser || 'A browser'}{browser.here ? ', this one' : ''}
        </span>
        <span class="block text-small text-ink2">
          {browser.address}, signed in {lately(browser.made)}, here {lately(browser.seen)}
        </span>
      </span>
      {#if !browser.here}
        <button class="button" onclick={() => account.end(browser.id)}>Sign it out</button>
      {/if}
    </li>
  {/each}
</ul>
