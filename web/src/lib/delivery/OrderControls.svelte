<script lang="ts">
  import type { Order } from '../api/types';
  import BesideChoice from './BesideChoice.svelte';
  import FileSettings from './FileSettings.svelte';
  import FormatChoice from './FormatChoice.svelte';
  import KeptOrders from './KeptOrders.svelte';
  import NamePattern from './NamePattern.svelte';
  import { withFormat } from './order';

  /** All that is wanted of files that are delivered. */
  interface Props {
    order: Order;
    /** Whose name the pattern is tried on. */
    photoId: number;
    onchange: (order: Order) => void;
  }
  let { order, photoId, onchange }: Props = $props();
</script>

<KeptOrders {order} {onchange} />
<div class="grid grid-cols-[216px_1fr] gap-x-6">
  <FormatChoice
    format={order.file_format}
    onchange={(format) => onchange(withFormat(order, format))}
  />
  <div class="flex flex-col gap-2.5">
    <FileSettings {order} {onchange} />
    <NamePattern {order} {photoId} {onchange} />
    <BesideChoice {order} {onchange} />
  </div>
</div>
