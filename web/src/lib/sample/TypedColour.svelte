<script lang="ts">
  import type { Measured, Space } from '../api/types';
  import { SPACES } from './sample-values';
  import TypedValues from './TypedValues.svelte';

  /** A reference by its values, in the space of one's choice. */
  interface Props {
    colour: Measured;
    onchange: (space: Space, values: [number, number, number]) => void;
  }
  let { colour, onchange }: Props = $props();
  let space = $state<Space>('lab');
  const chosen = $derived(SPACES[space]);
</script>

<div class="mt-2 flex flex-col gap-1.5">
  <select class="field w-fit" aria-label="Values to type" bind:value={space}>
    {#each Object.entries(SPACES) as [value, { name }] (value)}
      <option {value}>{name}</option>
    {/each}
  </select>
  <TypedValues
    label="Reference"
    fields={chosen.fields}
    values={chosen.of(colour)}
    onchange={(values) => onchange(space, values)}
  />
</div>
