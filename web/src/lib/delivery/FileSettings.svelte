<script lang="ts">
  import type { Order } from '../api/types';
  import AmountField from './AmountField.svelte';
  import ChoiceField from './ChoiceField.svelte';
  import { ABOUT, COLOUR_DETAIL, hasQuality, spacesOf } from './order';
  import SettingRow from './SettingRow.svelte';

  /** Profile, size, how it is coded, and what it says of itself. */
  interface Props {
    order: Order;
    onchange: (order: Order) => void;
  }
  let { order, onchange }: Props = $props();
  const change = (more: Partial<Order>): void => onchange({ ...order, ...more });
  const jpeg = $derived(order.file_format === 'jpeg');
</script>

<SettingRow label="Profile">
  <ChoiceField
    label="Profile"
    value={order.space ?? 'keep'}
    words={spacesOf(order.file_format)}
    onchange={(space) => change({ space })}
  />
</SettingRow>
<SettingRow label="Size">
  <label class="flex items-center gap-1.5">
    <AmountField
      label="Long edge"
      value={order.long_edge}
      least={16}
      most={60000}
      placeholder="all"
      onchange={(long_edge) => change({ long_edge })}
    />
    pixels long
  </label>
  <label class="flex items-center gap-1.5">
    <AmountField
      label="Megapixels"
      value={order.megapixels}
      least={0.01}
      most={200}
      placeholder="all"
      whole={false}
      onchange={(megapixels) => change({ megapixels })}
    />
    megapixels
  </label>
</SettingRow>
{#if hasQuality(order.file_format)}
  <SettingRow label="Quality">
    <AmountField
      label="Quality"
      value={order.quality}
      least={30}
      most={100}
      placeholder={jpeg ? '95' : '90'}
      onchange={(quality) => change({ quality })}
    />
    {#if jpeg}
      <label class="flex items-center gap-1.5">
        at most
        <AmountField
          label="At most, kB"
          value={order.limit_kb}
          least={10}
          most={500000}
          placeholder="any"
          onchange={(limit_kb) => change({ limit_kb })}
        />
        kB
      </label>
    {/if}
  </SettingRow>
{/if}
{#if jpeg}
  <SettingRow label="Colours">
    <ChoiceField
      label="Colours"
      value={order.subsampling ?? '444'}
      words={COLOUR_DETAIL}
      onchange={(subsampling) => change({ subsampling })}
    />
  </SettingRow>
{/if}
<SettingRow label="Metadata">
  <ChoiceField
    label="Metadata"
    value={order.about ?? 'all'}
    words={ABOUT}
    onchange={(about) => change({ about })}
  />
</SettingRow>
