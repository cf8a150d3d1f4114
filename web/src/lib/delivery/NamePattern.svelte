<script lang="ts">
  import { untrack } from 'svelte';
  import { call, reasonOf } from '../api/client';
  import { LatestWins } from '../api/latest-wins';
  import type { Order } from '../api/types';
  import SettingRow from './SettingRow.svelte';

  /** What files are called, tried on one photo by the server. */
  interface Props {
    order: Order;
    photoId: number;
    onchange: (order: Order) => void;
  }
  let { order, photoId, onchange }: Props = $props();
  let typed = $state(untrack(() => order.names ?? ''));
  let example = $state('');
  let fields = $state.raw<string[]>([]);
  let trouble = $state('');
  let field: HTMLInputElement | undefined = $state();
  let reported: string | undefined;

  const tries = new LatestWins<string>(async (names) => {
    try {
      const path = { photo_id: photoId };
      const told = await call('post', '/api/photos/{photo_id}/delivery-name', {
        path,
        body: { names },
      });
      [example, fields, trouble] = [told.example, told.fields, ''];
      if (names === order.names) return;
      reported = names;
      onchange({ ...order, names });
    } catch (error) {
      trouble = reasonOf(error);
    }
  });

  // A kept order brings its own pattern; what was reported from here comes back, and more may be typed by then.
  $effect(() => {
    const { names } = order;
    untrack(() => {
      const ours = names === reported;
      reported = undefined;
      if (ours) return;
      typed = names ?? '';
      tries.want(typed);
    });
  });

  function insert(name: string): void {
    const at = field?.selectionStart ?? typed.length;
    typed = `${typed.slice(0, at)}{${name}}${typed.slice(field?.selectionEnd ?? at)}`;
    tries.want(typed);
    field?.focus();
  }
</script>

<SettingRow label="Names" tall>
  <div class="min-w-0 flex-1">
    <input
      class="field w-full"
      aria-label="Names"
      aria-invalid={!!trouble}
      spellcheck="false"
      bind:this={field}
      bind:value={typed}
      oninput={() => tries.want(typed)}
    />
    <p class="mt-1 flex flex-wrap gap-x-2 gap-y-0.5">
      {#each fields as name (name)}
        <button
          type="button"
          class="text-ink2 underline decoration-dotted underline-offset-2 hover:text-ink"
          onclick={() => insert(name)}>{name}</button
        >
      {/each}
    </p>
    <p class="mt-1 truncate {trouble ? 'text-attention' : 'text-ink2'}" role="status">
      {trouble || `such as ${example}`}
    </p>
  </div>
</SettingRow>
