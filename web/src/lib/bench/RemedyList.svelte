<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import type { Cast, Remedy } from '../api/types';
  import { movedRemedy, REMEDY_NAMES, withRemedy } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';

  /** The remedies of a cast in the order in which they act. */
  let { cast }: { cast: Cast } = $props();
  const studio = useStudio();
  const chosen = $derived(studio.remedy);
  const at = $derived(cast.remedies.findIndex((r) => r.id === chosen?.id));

  const kinds: [Remedy['kind'], string][] = [
    ['neutralise', 'Neutralise: take the cast off'],
    ['match', 'Match: every sample onto its reference'],
    ['shift', 'Shift hue, saturation, luminance'],
    ['even-out', 'Even out, or spread, around a colour'],
    ['restore', 'Restore the photo as it came'],
  ];

  function add(kind: Remedy['kind']): void {
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
      onclick={() => (studio.remedyId = remedy.id)}>{REMEDY_NAMES[remedy.kind]}</button
    >
  {/each}
  <DropdownMenu.Root>
    <DropdownMenu.Trigger class="button px-1.5" aria-label="Add or arrange remedies"
      >Add<span aria-hidden="true">▾</span></DropdownMenu.Trigger
    >
    <DropdownMenu.Portal>
      <DropdownMenu.Content class="menu" align="end" side="top" sideOffset={4}>
        {#each kinds as [kind, label] (kind)}
          <DropdownMenu.Item class="menu-item" onSelect={() => add(kind)}>{label}</DropdownMenu.Item
          >
        {/each}
        {#if chosen}
          <DropdownMenu.Separator class="my-1 h-px bg-line" />
          {#if at > 0}
            <DropdownMenu.Item class="menu-item" onSelect={() => move(-1)}>
              Let {REMEDY_NAMES[chosen.kind]} act earlier
            </DropdownMenu.Item>
          {/if}
          {#if at < cast.remedies.length - 1}
            <DropdownMenu.Item class="menu-item" onSelect={() => move(1)}>
              Let {REMEDY_NAMES[chosen.kind]} act later
            </DropdownMenu.Item>
          {/if}
          <DropdownMenu.Item class="menu-item" onSelect={remove}>
            Delete {REMEDY_NAMES[chosen.kind]}
          </DropdownMenu.Item>
        {/if}
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  </DropdownMenu.Root>
</div>
