<script lang="ts">
  import { AlertDialog } from 'bits-ui';
  import { reasonOf } from '../api/client';
  import { session } from './session.svelte';

  /** Over the page, when the session has ended: what waits goes on afterwards. */
  const DEMO = 'demo';
  const user = $derived(session.current?.user ?? '');
  const demo = $derived(session.current?.demo && user === DEMO);
  let password = $state('');
  let reason = $state('');
  let busy = $state(false);

  async function signIn(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    busy = true;
    reason = '';
    try {
      await session.signInAgain(demo ? null : password);
      password = '';
    } catch (error) {
      reason = reasonOf(error);
    } finally {
      busy = false;
    }
  }
</script>

<AlertDialog.Root open={session.ended}>
  <AlertDialog.Portal>
    <AlertDialog.Overlay class="fixed inset-0 z-50 bg-black/40" />
    <AlertDialog.Content
      class="fixed top-[24%] left-1/2 z-50 w-[400px] -translate-x-1/2 border border-ink bg-raised p-5"
      escapeKeydownBehavior="ignore"
    >
      <AlertDialog.Title class="text-title font-semibold">You were signed out</AlertDialog.Title>
      <AlertDialog.Description class="my-3">
        Your work is still here. Sign in to save it and go on.
      </AlertDialog.Description>
      <form class="flex flex-col gap-3" onsubmit={signIn}>
        {#if !demo}
          <label class="flex flex-col gap-1">
            Password of {user}
            <input
              class="field min-h-[34px]"
              type="password"
              autocomplete="current-password"
              required
              bind:value={password}
            />
          </label>
        {/if}
        {#if reason}<p role="alert" class="text-attention">{reason}</p>{/if}
        <div class="flex justify-end gap-2">
          <button type="button" class="button tall" onclick={() => location.assign('/')}
            >Sign in as someone else</button
          >
          <button class="button strong tall" disabled={busy}>Sign in</button>
        </div>
      </form>
    </AlertDialog.Content>
  </AlertDialog.Portal>
</AlertDialog.Root>
