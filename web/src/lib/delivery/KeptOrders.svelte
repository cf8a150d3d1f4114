<script lang="ts">
  import { onMount } from 'svelte';
  import { call, reasonOf } from '../api/client';
  import type { KeptOrder, Order } from '../api/types';

  /** Orders that are kept under names: for each client one. */
  interface Props {
    order: Order;
    onchange: (order: Order) => void;
  }
  let { order, onchange }: Props = $props();
  let kept = $state.raw<KeptOrder[]>([]);
  let name = $state('');
  let trouble = $state('');
  const chosen = $derived(kept.find((k) => k.name === name.trim()));
  const MOST = 60;

  onMount(() => void attempt(async () => (kept = await call('get', '/api/delivery-presets', {}))));

  async function attempt(work: () => Promise<unknown>): Promise<void> {
    trouble = '';
    try {
      await work();
    } catch (error) {
      trouble = reasonOf(error);
    }
  }

  const keep = (event: Event): Promise<void> => {
    event.preventDefault();
    return attempt(async () => {
      const body = { name: name.trim(), order };
      await call('post', '/api/delivery-presets', { body });
      kept = await call('get', '/api/delivery-presets', {});
    });
  };

  const forget = (gone: KeptOrder): Promise<void> =>
    attempt(async () => {
      const path = { preset_id: gone.id };
      await call('delete', '/api/delivery-presets/{preset_id}', { path });
      kept = kept.filter((k) => k.id !== gone.id);
      name = '';
    });

  function take(next: string): void {
    name = next;
    const found = kept.find((k) => k.name === next);
    if (found) onchange(found.order);
  }
</script>

<form class="mb-3 flex flex-wrap items-center gap-1.5 border-b border-line pb-3" onsubmit={keep}>
  {#if kept.length}
    <select
      class="field w-[210px]"
      aria-label="Kept orders"
      value={chosen?.name ?? ''}
      onchange={(event) => take(event.currentTarget.value)}
    >
      <option value="" disabled>As it was kept for …</option>
      {#each kept as one (one.id)}<option value={one.name}>{one.name}</option>{/each}
    </select>
  {/if}
  <input
    class="field min-w-0 flex-1"
    aria-label="Keep this order as"
    placeholder="Keep it under a name"
    maxlength={MOST}
    required
    bind:value={name}
  />
  <button class="button">{chosen ? 'Keep anew' : 'Keep'}</button>
  {#if chosen}
    <button type="button" class="button" onclick={() => forget(chosen)}>Forget</button>
  {/if}
  {#if trouble}<p class="w-full text-attention" role="alert">{trouble}</p>{/if}
</form>
