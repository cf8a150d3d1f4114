<script lang="ts">
  import type { Person } from '../api/types';
  import { session } from '../session/session.svelte';
  import type { Account } from './account.svelte';
  import DeleteAccount from './DeleteAccount.svelte';
  import { lately } from './lately';

  /** Everybody's accounts, for an owner. */
  let { account }: { account: Account } = $props();
  const megabytes = new Intl.NumberFormat('en-GB', { maximumFractionDigits: 0 });

  let leaving = $state<Person | null>(null);

  /** A box that was ticked for nothing shows again how it is. */
  async function tick(
    person: Person,
    what: 'owner' | 'active',
    box: HTMLInputElement,
  ): Promise<void> {
    if (!(await account.change(person, { [what]: box.checked }))) box.checked = person[what];
  }

  function bound(person: Person, text: string): void {
    const quota_mb = Math.round(Number(text)) || null;
    void account.change(person, { quota_mb });
  }
</script>

<table class="w-full">
  <thead>
    <tr class="text-left text-small text-ink2">
      <th class="pb-1 font-normal">Name</th>
      <th class="pb-1 font-normal">Looks after accounts</th>
      <th class="pb-1 font-normal">May sign in</th>
      <th class="pb-1 text-right font-normal">Originals</th>
      <th class="pb-1 pl-4 font-normal">At most</th>
      <th class="pb-1 font-normal">Last here</th>
      <th></th>
    </tr>
  </thead>
  <tbody>
    {#each account.people as person (person.id)}
      <tr class="border-t border-line" class:text-ink2={!person.active}>
        <th scope="row" class="py-1.5 pr-3 text-left font-semibold">
          {person.name}{person.name === session.current?.user ? ', you' : ''}
        </th>
        <td>
          <input
            class="h-4 w-4 accent-[var(--ink)]"
            type="checkbox"
            aria-label="{person.name} looks after accounts"
            checked={person.owner}
            onchange={(event) => void tick(person, 'owner', event.currentTarget)}
          />
        </td>
        <td>
          <input
            class="h-4 w-4 accent-[var(--ink)]"
            type="checkbox"
            aria-label="{person.name} may sign in"
            checked={person.active}
            onchange={(event) => void tick(person, 'active', event.currentTarget)}
          />
        </td>
        <td class="text-right tabular-nums">{megabytes.format(person.kept / 2 ** 20)} MB</td>
        <td class="pl-4">
          <input
            class="field w-[84px] text-right tabular-nums"
            inputmode="numeric"
            placeholder="no bound"
            aria-label="Megabytes of originals that {person.name} may keep"
            value={person.quota_mb ?? ''}
            onchange={(event) => bound(person, event.currentTarget.value)}
          /> MB
        </td>
        <td class="whitespace-nowrap text-ink2">
          {person.removed
            ? 'deleted'
            : person.seen
              ? lately(person.seen)
              : person.to_change
                ? 'not yet'
                : 'long ago'}
        </td>
        <td class="text-right">
          {#if person.name !== session.current?.user}
            {#if person.removed}
              <button class="button" onclick={() => account.change(person, { active: true })}
                >Restore</button
              >
            {:else}
              <button class="button" onclick={() => account.givePassword(person)}
                >New password</button
              >
              <button
                class="button"
                aria-label="Delete the account {person.name}"
                onclick={() => (leaving = person)}>Delete…</button
              >
            {/if}
          {/if}
        </td>
      </tr>
    {/each}
  </tbody>
</table>
{#if leaving}
  {@const person = leaving}
  <DeleteAccount
    {person}
    bind:open={() => leaving !== null, () => (leaving = null)}
    ondelete={() => account.remove(person)}
  />
{/if}
