<script lang="ts">
  import CompareMenu from '../compare/CompareMenu.svelte';
  import HistoryMenu from '../past/HistoryMenu.svelte';
  import VersionsMenu from '../past/VersionsMenu.svelte';
  import RoomMenu from '../room/RoomMenu.svelte';
  import { busy } from '../api/busy.svelte';
  import { withKey } from '../help/commands';
  import { link } from '../router.svelte';
  import { useStudio } from './studio.svelte';

  interface Props {
    ondeliver: () => void;
    onhelp: () => void;
  }
  let { ondeliver, onhelp }: Props = $props();
  const studio = useStudio();
  const { shoot_id, shoot_name, neighbours } = studio.opened;
  const at = neighbours.indexOf(studio.photo.id);
  const earlier = neighbours[at - 1];
  const later = neighbours[at + 1];
  const states = {
    trying: 'Nothing is saved',
    saved: 'Saved',
    saving: 'Saving',
    waiting: 'Not saved, trying again',
    conflict: 'Not saved',
    refused: 'Not saved',
  };
</script>

<header class="flex h-12 min-w-0 items-center gap-2 border-b border-line px-4 xl:gap-3">
  <a href="/shoots/{shoot_id}" use:link class="text-[16px] font-bold">Nubilis</a>
  <a
    href="/shoots/{shoot_id}"
    use:link
    class="hidden max-w-[150px] min-w-0 truncate text-ink2 hover:underline xl:block">{shoot_name}</a
  >
  <h1 class="max-w-[170px] min-w-[40px] truncate text-lead" title={studio.photo.title}>
    {studio.photo.title}
  </h1>
  <nav class="flex items-center gap-1" aria-label="Photos of the shoot">
    {#each [[earlier, '‹', 'Photo before'], [later, '›', 'Next photo']] as const as [id, sign, label] (label)}
      {#if id}
        <a class="quiet text-title" href="/photos/{id}" use:link aria-label={label}>{sign}</a>
      {:else}
        <span class="quiet text-title opacity-30" aria-hidden="true">{sign}</span>
      {/if}
    {/each}
    <span class="text-ink2 whitespace-nowrap">{at + 1} of {neighbours.length}</span>
  </nav>
  <span class="flex-1"></span>
  {#if busy.waiting}
    <span class="whitespace-nowrap text-ink2" role="status" title="Nothing is lost meanwhile"
      >Busy, trying again</span
    >
  {/if}
  <span
    class="whitespace-nowrap text-ink2"
    class:attention={studio.saver.unsaved && studio.saver.status !== 'saving'}
    aria-live="polite"
    data-testid="save-state"
    title={studio.saver.reason}>{states[studio.saver.status]}</span
  >
  {#if studio.works}
    <span class="joined">
      <button
        class="button tall"
        disabled={!studio.saver.canUndo}
        onclick={() => studio.step('undo')}>Undo</button
      >
      <button
        class="button tall"
        disabled={!studio.saver.canRedo}
        onclick={() => studio.step('redo')}>Redo</button
      >
      <HistoryMenu />
    </span>
    <VersionsMenu />
  {/if}
  <button
    class="button tall"
    aria-pressed={studio.untouched}
    aria-label="Hold for before"
    title={withKey('Hold to see the untouched photo', 'untouched')}
    onpointerdown={() => (studio.untouched = true)}
    onpointerup={() => (studio.untouched = false)}
    onpointerleave={() => (studio.untouched = false)}
    onkeydown={(event) => event.key === ' ' && (studio.untouched = true)}
    onkeyup={(event) => event.key === ' ' && (studio.untouched = false)}>Before</button
  >
  <CompareMenu />
  <RoomMenu />
  <button class="quiet" aria-label="Keys and figures" onclick={onhelp}>?</button>
  {#if studio.works}<button class="button strong tall" onclick={ondeliver}>Deliver</button>{/if}
</header>

<style>
  .attention {
    background: var(--attention);
    color: var(--inverse);
    padding: 2px 8px;
  }
</style>
