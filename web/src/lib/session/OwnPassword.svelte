<script lang="ts">
  import { reasonOf } from '../api/client';
  import PasswordForm from '../account/PasswordForm.svelte';
  import { session } from './session.svelte';

  /** Before anything else, whoever was given a password chooses their own. */
  let reason = $state('');

  async function choose(old: string, chosen: string): Promise<boolean> {
    reason = '';
    try {
      await session.choosePassword(old, chosen);
      return true;
    } catch (error) {
      reason = reasonOf(error);
      return false;
    }
  }
</script>

<main class="flex h-full items-center justify-center bg-surround">
  <div class="w-[400px] bg-panel p-8">
    <h1 class="mb-1 text-title font-semibold">Welcome, {session.current?.user}</h1>
    <p class="mb-5 text-ink2">
      The password that you were given is for beginning. Choose one that only you know.
    </p>
    <PasswordForm word="Choose it and begin" onchoose={choose} />
    {#if reason}
      <p role="alert" class="notched mt-4 w-fit bg-danger py-1 pr-3 text-inverse">{reason}</p>
    {/if}
  </div>
</main>
