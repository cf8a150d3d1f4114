<script lang="ts">
  import type { LibraryColour } from '../api/types';
  import { LAB_FIELDS } from '../sample/sample-values';
  import TypedValues from '../sample/TypedValues.svelte';
  import { GROUPS } from './library.svelte';

  /** A colour by its values; where: the shoot that it is kept for, if only for one. */
  interface Props {
    where: string | undefined;
    onmade: (colour: LibraryColour) => void;
  }
  let { where, onmade }: Props = $props();
  let name = $state('');
  let group = $state<LibraryColour['group']>('material');
  let lab = $state.raw<LibraryColour['lab']>([50, 0, 0]);
</script>

<form
  class="mb-5 flex flex-wrap items-end gap-3 border border-line bg-raised p-3"
  aria-label="New colour"
  onsubmit={(event) => {
    event.preventDefault();
    onmade({ name, group, lab, note: '' });
  }}
>
  <label class="flex flex-col gap-1">
    Name
    <input class="field w-[220px]" maxlength="80" required bind:value={name} />
  </label>
  <label class="flex flex-col gap-1">
    Group
    <select class="field" bind:value={group}>
      {#each GROUPS as [value, label] (value)}<option {value}>{label}</option>{/each}
    </select>
  </label>
  <span class="h-[26px] w-14" style:background="lab({lab[0]}% {lab[1]} {lab[2]})"></span>
  <TypedValues
    label="New colour"
    fields={LAB_FIELDS}
    values={lab}
    onchange={(typed) => (lab = typed)}
  />
  <button class="button strong">Keep it for {where ?? 'every shoot'}</button>
</form>
