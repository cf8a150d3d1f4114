<script lang="ts">
  import type { Figure } from '../api/types';
  import { useStudio } from '../studio/studio.svelte';
  import { told } from './figure';

  /** One line of the proof; its value is a button that shows its pixels on the photo. */
  interface Props {
    figure: Figure;
    cast: string | null;
    /** Its whole name, where the line above is not there to complete it. */
    whole?: boolean;
    /** Instead of its own. */
    value?: string;
  }
  let { figure, cast, whole = false, value }: Props = $props();
  const { proving } = useStudio();
  const shown = $derived(proving.shows(figure, cast));
</script>

<tr class="border-b border-faint">
  <th scope="row" class="text-left font-normal" title={figure.meaning}>
    {#if figure.part && !whole}
      <span class="sr-only">{figure.name}</span>
      <span class="pl-3 text-ink2" aria-hidden="true">{figure.part}</span>
    {:else}{figure.name}{/if}
  </th>
  <td class="text-right font-semibold whitespace-nowrap">
    <button
      class="quiet min-h-[24px] px-0.5 aria-pressed:bg-ink aria-pressed:text-inverse"
      aria-pressed={shown}
      title="{figure.meaning}. Click to see its pixels"
      onclick={() => proving.toggle(figure, cast)}>{value ?? told(figure)}</button
    >
  </td>
</tr>
