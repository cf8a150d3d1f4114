<script lang="ts">
  import type { Order } from '../api/types';
  import { ABOUT, COLOUR_DETAIL, hasQuality, needsSrgb, SPACES } from './order';
  import SettingRow from './SettingRow.svelte';

  /** Profile, size, how it is coded, and what it says of itself. */
  interface Props {
    order: Order;
    onchange: (order: Order) => void;
  }
  let { order, onchange }: Props = $props();

  /** A number within bounds, or none where nothing is typed. */
  function number(text: string, least: number, most: number): number | null {
    const value = Number(text.replace(',', '.'));
    return text.trim() && value ? Math.min(Math.max(value, least), most) : null;
  }
  const whole = (text: string, least: number, most: number): number | null => {
    const value = number(text, least, most);
    return value === null ? null : Math.round(value);
  };
</script>

<SettingRow label="Profile">
  <select
    class="field"
    aria-label="Profile"
    value={order.space}
    disabled={needsSrgb(order.file_format)}
    onchange={(event) => onchange({ ...order, space: event.currentTarget.value as Order['space'] })}
  >
    {#each SPACES as [space, word] (space)}<option value={space}>{word}</option>{/each}
  </select>
</SettingRow>
<SettingRow label="Size">
  <label class="flex items-center gap-1.5">
    <input
      class="field w-[58px] text-right"
      aria-label="Long edge"
      inputmode="numeric"
      placeholder="all"
      value={order.long_edge ?? ''}
      onchange={(event) =>
        onchange({ ...order, long_edge: whole(event.currentTarget.value, 16, 60000) })}
    />
    pixels long
  </label>
  <label class="flex items-center gap-1.5">
    <input
      class="field w-[48px] text-right"
      aria-label="Megapixels"
      inputmode="decimal"
      placeholder="all"
      value={order.megapixels ?? ''}
      onchange={(event) =>
        onchange({ ...order, megapixels: number(event.currentTarget.value, 0.01, 200) })}
    />
    megapixels
  </label>
</SettingRow>
{#if hasQuality(order.file_format)}
  <SettingRow label="Quality">
    <input
      class="field w-[58px] text-right"
      aria-label="Quality"
      inputmode="numeric"
      placeholder={order.file_format === 'jpeg' ? '95' : '90'}
      value={order.quality ?? ''}
      onchange={(event) =>
        onchange({ ...order, quality: whole(event.currentTarget.value, 30, 100) })}
    />
    {#if order.file_format === 'jpeg'}
      <label class="flex items-center gap-1.5">
        at most
        <input
          class="field w-[58px] text-right"
          aria-label="At most, kB"
          inputmode="numeric"
          placeholder="any"
          value={order.limit_kb ?? ''}
          onchange={(event) =>
            onchange({ ...order, limit_kb: whole(event.currentTarget.value, 10, 500000) })}
        />
        kB
      </label>
    {/if}
  </SettingRow>
{/if}
{#if order.file_format === 'jpeg'}
  <SettingRow label="Colours">
    <select
      class="field"
      aria-label="Colours"
      value={order.subsampling}
      onchange={(event) =>
        onchange({ ...order, subsampling: event.currentTarget.value as Order['subsampling'] })}
    >
      {#each COLOUR_DETAIL as [value, word] (value)}<option {value}>{word}</option>{/each}
    </select>
  </SettingRow>
{/if}
<SettingRow label="Metadata">
  <select
    class="field"
    aria-label="Metadata"
    value={order.about}
    onchange={(event) => onchange({ ...order, about: event.currentTarget.value as Order['about'] })}
  >
    {#each ABOUT as [value, word] (value)}<option {value}>{word}</option>{/each}
  </select>
</SettingRow>
