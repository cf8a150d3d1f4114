<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import type { Cast } from '../api/types';
  import { movedRemedy, withRemedy } from '../recipe/edit';
  import { nameOf, type RemedyKind } from '../recipe/kinds';
  import { useStudio } from '../studio/studio.svelte';
  import { REMEDIES } from './descriptors';

  /** The remedies of a cast in the order in which they act. */
  let { cast }: { cast: Cast } = $props();
  const studio = useStudio();
  const chosen = $derived(studio.remedy);
  const at = $derived(cast.remedies.findIndex((r) => r.id === chosen?.id));

  function add(kind: RemedyKind): void {
    studio.changeCast((c) => withRemedy(c, kind));
    studio.remedyId = studio.cast?.remedies.at(-1)?.id ?? null;
  }

  function move(by: -1 | 1): void {
    const id = chosen?.id;
    if (id) studio.changeCast((c) => movedRemedy(c, id, by));
  }

  function remove(): void {
    const id = chosen?.id;
    studio.changeCast((c) => ({ ...c, remedies: c.remedies.filter((r) => r.id !== id) }));
  }
</script>

<div class="mb-1 flex flex-wrap items-center gap-1">
  {#each cast.remedies as remedy (remedy.id)}
    <button
      class="button px-1.5"
      class:line-through={!remedy.on}
      aria-pressed={chosen?.id === remedy.id}
      onclick={() => (studio.remedyId = remedy.id)}>{nameOf(remedy)}</button
    >
  {/each}
  <DropdownMenu.Root>
    <DropdownMenu.Trigger class="button px-1.5" aria-label="Add or arrange remedies"
      >Add<span aria-hidden="true">▾</span></DropdownMenu.Trigger
    >
    <DropdownMenu.Portal>
      <DropdownMenu.Content class="menu" align="end" side="top" sideOffset={4}>
        {#each REMEDIES as { kind, menu } (kind)}
          <DropdownMenu.Item class="menu-item" onSelect={() => add(kind)}>{menu}</DropdownMenu.Item>
        {/each}
        {#if chosen}
          <DropdownMenu.Separator class="my-1 h-px bg-line" />
          {#if at > 0}
            <DropdownMenu.Item class="menu-item" onSelect={() => move(-1)}>
              Let {nameOf(chosen)} act earlier
            </DropdownMenu.Item>
          {/if}
          {#if at < cast.remedies.length - 1}
            <DropdownMenu.Item class="menu-item" onSelect={() => move(1)}>
              Let {nameOf(chosen)} act later
            </DropdownMenu.Item>
          {/if}
          <DropdownMenu.Item class="menu-item" onSelect={remove}>
            Delete {nameOf(chosen)}
          </DropdownMenu.Item>
        {/if}
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  </DropdownMenu.Root>
</div>
