<script lang="ts">
  import { onMount } from 'svelte';
  import RoomMenu from '../room/RoomMenu.svelte';
  import { link } from '../router.svelte';
  import { session } from '../session/session.svelte';
  import { Account } from './account.svelte';
  import BrowserList from './BrowserList.svelte';
  import DeleteAccount from './DeleteAccount.svelte';
  import GivenPassword from './GivenPassword.svelte';
  import { lately } from './lately';
  import NewPerson from './NewPerson.svelte';
  import PasswordForm from './PasswordForm.svelte';
  import PeopleTable from './PeopleTable.svelte';

  /** The demo's account is everybody's. */
  const DEMO = 'demo';
  const account = new Account();
  let leaving = $state(false);

  onMount(() => {
    document.title = 'Account · Nubilis';
    void account.load();
  });
</script>

<div class="flex h-full flex-col">
  <header class="flex h-12 shrink-0 items-center gap-4 border-b border-line px-4">
    <a href="/" use:link class="text-[16px] font-bold">Nubilis</a>
    <h1 class="text-lead">{session.current?.user}</h1>
    <span class="flex-1"></span>
    <RoomMenu />
    <a href="/" use:link class="button tall">To the contact sheet</a>
  </header>
  <main class="min-h-0 flex-1 overflow-y-auto">
    {#if account.trouble}
      <p role="alert" class="notched m-4 w-fit bg-attention py-1 pr-3 text-inverse">
        {account.trouble}
      </p>
    {/if}
    {#if account.told}<p role="status" class="m-4">{account.told}</p>{/if}
    <div class="grid gap-x-10 gap-y-8 p-5" class:of-owner={account.owner}>
      <div class="flex max-w-[340px] flex-col gap-8">
        <section aria-label="Password">
          <h2 class="mb-3 text-lead font-semibold">Password</h2>
          <PasswordForm onchoose={(old, chosen) => account.choose(old, chosen)} />
        </section>
        <section aria-label="Signed in">
          <h2 class="mb-2 text-lead font-semibold">Signed in</h2>
          <BrowserList {account} />
        </section>
        {#if session.current?.id && session.current.user !== DEMO}
          <section aria-label="Delete account">
            <button class="button" onclick={() => (leaving = true)}>Delete my account…</button>
            <DeleteAccount
              person={{ id: session.current.id, name: session.current.user ?? '' }}
              own
              bind:open={leaving}
              ondelete={(password) => account.leave(password)}
            />
          </section>
        {/if}
      </div>
      {#if account.owner}
        <div class="flex min-w-0 flex-col gap-8">
          <section aria-label="Accounts">
            <h2 class="mb-3 text-lead font-semibold">Accounts</h2>
            <GivenPassword {account} />
            <PeopleTable {account} />
            <div class="mt-4"><NewPerson {account} /></div>
          </section>
          <section aria-label="Noted">
            <h2 class="mb-2 text-lead font-semibold">Noted</h2>
            <ul class="max-h-[320px] overflow-y-auto border-t border-line">
              {#each account.noted as line, i (i)}
                <li class="flex gap-4 border-b border-line py-1">
                  <span class="w-[84px] shrink-0 text-ink2">{lately(line.made)}</span>
                  <span class="min-w-0 flex-1">{line.person} · {line.what}</span>
                  <span class="text-ink2">{line.address}</span>
                </li>
              {/each}
            </ul>
          </section>
        </div>
      {/if}
    </div>
  </main>
</div>

<style>
  .of-owner {
    grid-template-columns: 340px minmax(0, 860px);
  }
</style>
