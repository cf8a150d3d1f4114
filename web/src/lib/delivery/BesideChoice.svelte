<script lang="ts">
  import type { Order } from '../api/types';
  import ChoiceField from './ChoiceField.svelte';
  import { MASKS, PLACES, PROOFS } from './order';
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
  <ChoiceField
    label="Masks"
    value={order.masks ?? ''}
    words={MASKS}
    onchange={(masks) => onchange({ ...order, masks: masks || null })}
  />
  {@render tick('Colour table', !!order.table, (table) => onchange({ ...order, table }))}
  {@render tick('Recipe', !!order.recipe, (recipe) => onchange({ ...order, recipe }))}
</SettingRow>
<SettingRow label="Proof">
  {#each PROOFS as [form, word] (form)}
    {@render tick(word, proofs.includes(form), (on) => prove(form, on))}
  {/each}
</SettingRow>
<SettingRow label="Into">
  <ChoiceField
    label="Into"
    value={order.folder ? 'folder' : 'fetch'}
    words={PLACES}
    onchange={(place) => onchange({ ...order, folder: place === 'folder' })}
  />
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
