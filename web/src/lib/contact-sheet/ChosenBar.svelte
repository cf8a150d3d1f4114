<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import { call } from '../api/client';
  import type { ShootEntry } from '../api/types';
  import Progress from '../controls/Progress.svelte';
  import { placesToMoveTo } from './moving';
  import { router } from '../router.svelte';
  import { choosePhotosToAgree } from '../agree/chosen';
  import type { ChosenWork } from './chosen-work.svelte';
  import type { Sheet } from './sheet.svelte';
  import type { ShootLook } from './shoot-look.svelte';
  import DeliverSetDialog from './DeliverSetDialog.svelte';
  import TreatDialog from './TreatDialog.svelte';

  /** What can be done with the photos that are chosen. */
  interface Props {
    sheet: Sheet;
    look: ShootLook;
    work: ChosenWork;
    onremove: () => void;
  }
  let { sheet, look, work, onremove }: Props = $props();
  // One sheet is made per shoot.
  // svelte-ignore state_referenced_locally
  const { selection } = sheet;
  const busy = $derived(work.following.running);
  const job = $derived(work.following.job);
  const toCheck = $derived(selection.list.filter((id) => sheet.cards.get(id)?.state === 'check'));
  let shoots = $state<ShootEntry[]>([]);
  let delivering = $state(false);
  let treating = $state<'' | 'adopt' | 'carry' | 'follow'>('');

  /** The treated photo that the others should be treated as: the first that is chosen. */
  const model = $derived.by(() => {
    const photos = sheet.shoot?.photos ?? [];
    const treated = (id: number): boolean => !!sheet.cards.get(id)?.letters.length;
    const id = selection.list.find(treated);
    return photos.find((p) => p.id === id);
  });

  async function opened(open: boolean): Promise<void> {
    if (!open) return;
    const all = await call('get', '/api/shoots').catch(() => []);
    shoots = placesToMoveTo(all, sheet.shootId);
  }

  function agree(): void {
    choosePhotosToAgree(sheet.shootId, selection.list);
    router.go(`/shoots/${sheet.shootId}/agree`);
  }
</script>

<div
  class="bar flex min-h-[46px] shrink-0 flex-wrap items-center gap-x-4 px-4"
  role="toolbar"
  aria-label="With the chosen photos"
>
  <span class="font-semibold whitespace-nowrap" role="status">{selection.count} chosen</span>
  {#if job && busy}
    <Progress
      label="Work on the chosen photos"
      text={work.text}
      done={job.share * job.total}
      total={job.total}
      oncancel={() => work.following.cancel()}
    />
  {:else}
    <button class="quiet" onclick={() => look.start(selection.list)}>Look for casts</button>
    <button class="quiet" onclick={() => (treating = 'adopt')}>Treat what was found</button>
    {#if model && selection.count > 1}
      <button class="quiet max-w-[240px]" onclick={() => (treating = 'carry')}
        ><span class="truncate">Treat as {model.title}</span></button
      >
      <button class="quiet" onclick={() => (treating = 'follow')}>Follow</button>
    {/if}
    <button class="quiet" onclick={agree}>Agree on a colour</button>
    <button class="quiet" onclick={() => work.prove(selection.list)}>Prove</button>
    <button class="quiet" onclick={() => (delivering = true)}>Deliver</button>
    {#if sheet.shoot?.may === 'own'}
      <DropdownMenu.Root onOpenChange={opened}>
        <DropdownMenu.Trigger class="quiet">Move</DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content class="menu" side="top" align="start" sideOffset={8}>
            {#each shoots as shoot (shoot.id)}
              <DropdownMenu.Item
                class="menu-item"
                onSelect={() => sheet.move(selection.list, shoot.id)}
                >{shoot.name}</DropdownMenu.Item
              >
            {:else}
              <span class="block px-3 py-1.5 text-ink2">There is no other shoot.</span>
            {/each}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    {/if}
    <button class="quiet" onclick={onremove}>Remove</button>
    {#if toCheck.length}
      <button class="quiet" onclick={() => sheet.lookedOver(toCheck)}>They are right</button>
    {/if}
  {/if}
  {#if work.made && !busy}
    {#if work.made.href}
      <a class="font-semibold underline" href={work.made.href} target="_blank">{work.made.text}</a>
    {:else}
      <span class="font-semibold" role="status">{work.made.text}</span>
    {/if}
    {#each work.made.notes as note (note)}<span class="text-ink2">{note}</span>{/each}
  {/if}
  <span class="flex-1"></span>
  <button class="quiet whitespace-nowrap" onclick={() => selection.all()}
    >Choose all {sheet.shown.length}</button
  >
  <button class="quiet whitespace-nowrap" onclick={() => selection.none()}>Esc lets go</button>
</div>

{#if delivering}
  <DeliverSetDialog
    photos={selection.list}
    ondeliver={(order) => work.deliver(selection.list, order)}
    onclose={() => (delivering = false)}
  />
{/if}
{#if treating}
  <TreatDialog {sheet} {work} kind={treating} source={model} onclose={() => (treating = '')} />
{/if}

<style>
  .bar {
    background: var(--ink);
    color: var(--inverse);
  }
  .bar :global(.button) {
    background: transparent;
    color: inherit;
    border-color: currentColor;
  }
  .bar :global(:focus-visible) {
    outline-color: var(--inverse);
  }
  .bar :global([role='status'] .border-ink) {
    border-color: var(--inverse);
  }
  .bar :global([role='progressbar']) {
    background: var(--ink2);
  }
  .bar :global([role='status'] .relative > span:last-child) {
    position: relative;
  }
</style>
