<script lang="ts">
  import type { Order } from '../api/types';
  import { MASKS, PROOFS } from './order';
  import SettingRow from './SettingRow.svelte';

  /** What goes beside each photo, for whoever goes on elsewhere; and where all of it goes. */
  interface Props {
    order: Order;
    onchange: (order: Order) => void;
  }
  let { order, onchange }: Props = $props();
  const proofs = $derived(order.proof ?? []);

  function prove(form: (typeof PROOFS)[number][0], on: boolean): void {
    const left = proofs.filter((f) => f !== form);
    onchange({ ...order, proof: on ? [...left, form] : left });
  }
</script>

<SettingRow label="Masks">
  <select
    class="field"
    aria-label="Masks"
    value={order.masks ?? ''}
    onchange={(event) =>
      onchange({ ...order, masks: (event.currentTarget.value || null) as Order['masks'] })}
  >
    {#each MASKS as [value, word] (value)}<option {value}>{word}</option>{/each}
  </select>
  {@render tick('Colour table', !!order.table, (table) => onchange({ ...order, table }))}
  {@render tick('Recipe', !!order.recipe, (recipe) => onchange({ ...order, recipe }))}
</SettingRow>
<SettingRow label="Proof">
  {#each PROOFS as [form, word] (form)}
    {@render tick(word, proofs.includes(form), (on) => prove(form, on))}
  {/each}
</SettingRow>
<SettingRow label="Into">
  <select
    class="field"
    aria-label="Into"
    value={order.folder ? 'folder' : 'fetch'}
    onchange={(event) => onchange({ ...order, folder: event.currentTarget.value === 'folder' })}
  >
    <option value="fetch">files to fetch</option>
    <option value="folder">a folder of the server</option>
  </select>
</SettingRow>

{#snippet tick(word: string, on: boolean, turn: (on: boolean) => void)}
  <label class="flex items-center gap-1.5">
    <input
      type="checkbox"
      class="h-4 w-4 accent-[var(--ink)]"
      checked={on}
      onchange={(event) => turn(event.currentTarget.checked)}
    />
    {word}
  </label>
{/snippet}
