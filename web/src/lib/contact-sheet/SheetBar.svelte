<script lang="ts">
  import { DropdownMenu, Popover } from 'bits-ui';
  import { call } from '../api/client';
  import type { Shoot, ShootEntry } from '../api/types';
  import Progress from '../controls/Progress.svelte';
  import RoomMenu from '../room/RoomMenu.svelte';
  import { link, router } from '../router.svelte';
  import DeletedShoots from './DeletedShoots.svelte';
  import DeleteShoot from './DeleteShoot.svelte';
  import MakeShoot from './MakeShoot.svelte';
  import ProofSheets from './ProofSheets.svelte';
  import ShareDialog from './ShareDialog.svelte';
  import type { ShootLook } from './shoot-look.svelte';
  import { questions } from '../finder/questions.svelte';

  interface Props {
    shoot: Shoot | null;
    look: ShootLook;
    onadd: () => void;
  }
  let { shoot, look, onadd }: Props = $props();
  let shoots = $state<ShootEntry[]>([]);
  let making = $state(false);
  let sharing = $state(false);
  let deleting = $state(false);
  let showDeleted = $state(false);
  const works = $derived(shoot !== null && shoot.may !== 'see');
  const following = $derived(look.following);
  // Asked for anew when looking has ended.
  $effect(() => {
    if (shoot && works && !following.running) void questions.load(shoot.id);
  });
  const job = $derived(following.job);

  async function opened(open: boolean): Promise<void> {
    if (open) shoots = await call('get', '/api/shoots').catch(() => shoots);
  }
</script>

<header class="flex h-12 shrink-0 items-center gap-2 border-b border-line px-4 xl:gap-4">
  <a href="/" use:link class="text-[16px] font-bold">Nubilis</a>
  <DropdownMenu.Root onOpenChange={opened}>
    <DropdownMenu.Trigger class="quiet max-w-[420px] min-w-0 gap-1.5 text-lead">
      <span class="min-w-0 truncate">{shoot?.name ?? ''}</span>
      <span class="text-ink2" aria-hidden="true">▾</span>
      <span class="sr-only">, choose a shoot</span>
    </DropdownMenu.Trigger>
    <DropdownMenu.Portal>
      <DropdownMenu.Content class="menu" align="start" sideOffset={4}>
        {#each shoots as entry (entry.id)}
          <DropdownMenu.Item class="menu-item" onSelect={() => router.go(`/shoots/${entry.id}`)}>
            {entry.name}
            <span>{entry.may === 'own' ? '' : `of ${entry.owner}, `}{entry.photos}</span>
          </DropdownMenu.Item>
        {/each}
        {#if shoot?.may === 'own'}
          <DropdownMenu.Item
            class="menu-item border-t border-line"
            onSelect={() => (sharing = true)}>Share this shoot…</DropdownMenu.Item
          >
          <DropdownMenu.Item class="menu-item" onSelect={() => (deleting = true)}
            >Delete this shoot…</DropdownMenu.Item
          >
        {/if}
        <DropdownMenu.Item
          class="menu-item {shoot?.may === 'own' ? '' : 'border-t border-line'}"
          onSelect={() => (showDeleted = true)}>Deleted shoots…</DropdownMenu.Item
        >
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  </DropdownMenu.Root>
  <span class="whitespace-nowrap text-ink2 max-xl:hidden">
    {shoot ? `${shoot.photos.length} ${shoot.photos.length === 1 ? 'photo' : 'photos'}` : ''}
  </span>
  {#if shoot && shoot.may !== 'own'}
    <span class="min-w-0 truncate">
      Shared by {shoot.owner} to {shoot.may === 'see' ? 'look at' : 'work on'}
    </span>
  {/if}
  <span class="flex-1"></span>
  {#if job && following.running}
    <Progress
      label="Looking for casts"
      text={job.cancelled
        ? 'Stopping'
        : `Looking at ${Math.min(job.done + 1, job.total)} of ${job.total}`}
      done={job.share * job.total}
      total={job.total}
      oncancel={() => following.cancel()}
    />
  {:else if shoot?.photos.length && works}
    {#if job && following.leftOff && job.done < job.total}
      <button
        class="button tall"
        title="Looking ended at {job.done} of {job.total} photos"
        onclick={() => look.takeUp()}>Look at the other {job.total - job.done}</button
      >
    {/if}
    <button class="button tall" onclick={() => look.start()}>Look for casts</button>
    {#if questions.photos.length}
      <button
        class="button tall"
        title="On some photos several readings of the light are about as likely"
        onclick={() => questions.begin()}
        >{questions.photos.length === 1
          ? '1 question'
          : `${questions.photos.length} questions`}</button
      >
    {/if}
  {/if}
  {#if shoot?.photos.length && works}
    <ProofSheets shootId={shoot.id} />
  {/if}
  {#if shoot?.may === 'own'}<a href="/shoots/{shoot.id}/camera" use:link class="quiet">Camera</a
    >{/if}
  <a href="/references" use:link class="quiet">References</a>
  <a href="/guide" use:link class="quiet">Guide</a>
  <RoomMenu />
  <Popover.Root bind:open={making}>
    <Popover.Trigger class="button tall">New shoot</Popover.Trigger>
    <Popover.Portal>
      <Popover.Content role="dialog" class="menu p-3" align="end" sideOffset={4}>
        <MakeShoot onmade={() => (making = false)} />
      </Popover.Content>
    </Popover.Portal>
  </Popover.Root>
  {#if works}<button class="button strong tall" onclick={onadd}>Add photos</button>{/if}
</header>
{#if shoot?.may === 'own'}
  <ShareDialog {shoot} bind:open={sharing} />
  <DeleteShoot {shoot} bind:open={deleting} />
{/if}
<DeletedShoots bind:open={showDeleted} />
