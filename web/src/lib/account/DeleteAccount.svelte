<script lang="ts">
  import { AlertDialog } from 'bits-ui';
  import { call, reasonOf } from '../api/client';
  import type { Holds } from '../api/types';
  import { inWords } from '../contact-sheet/holds';

  /** Says what an account holds before it is deleted. own: one's own, for which the password is asked. */
  interface Props {
    person: { id: number; name: string };
    own?: boolean;
    open: boolean;
    ondelete: (password: string) => Promise<boolean>;
  }
  let { person, own = false, open = $bindable(), ondelete }: Props = $props();
  let holds = $state.raw<Holds | null>(null);
  let reason = $state('');
  let password = $state('');

  $effect(() => {
    if (open) void load(person.id);
  });

  async function load(person_id: number): Promise<void> {
    [reason, password, holds] = ['', '', null];
    try {
      holds = await call('get', '/api/people/{person_id}/holds', { path: { person_id } });
    } catch (error) {
      reason = reasonOf(error);
    }
  }

  async function remove(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    if (await ondelete(password)) open = false;
    else reason = own ? 'The password is wrong.' : 'The account was not deleted.';
  }
</script>

<AlertDialog.Root bind:open>
  <AlertDialog.Portal>
    <AlertDialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <AlertDialog.Content
      class="fixed top-[20%] left-1/2 z-50 w-[460px] -translate-x-1/2 border border-ink bg-raised p-5"
    >
      <AlertDialog.Title class="text-title font-semibold">
        Delete {own ? 'your account' : `the account ${person.name}`}?
      </AlertDialog.Title>
      <AlertDialog.Description class="my-3">
        {holds ? inWords(holds) : ''} Nobody can sign in with it any more. An owner can restore it for
        30 days.
      </AlertDialog.Description>
      <form onsubmit={remove}>
        {#if own}
          <input
            class="field mb-3 min-h-[28px] w-full"
            type="password"
            autocomplete="current-password"
            aria-label="Your password"
            placeholder="Your password"
            required
            bind:value={password}
          />
        {/if}
        {#if reason}<p role="alert" class="mb-3 text-attention">{reason}</p>{/if}
        <div class="flex justify-end gap-2">
          <AlertDialog.Cancel class="button tall">Cancel</AlertDialog.Cancel>
          <button class="button strong tall" disabled={!holds}>Delete account</button>
        </div>
      </form>
    </AlertDialog.Content>
  </AlertDialog.Portal>
</AlertDialog.Root>
