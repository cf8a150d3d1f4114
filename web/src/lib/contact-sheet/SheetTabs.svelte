<script lang="ts">
  import BinDialog from './BinDialog.svelte';
  import RefusalsDialog from './RefusalsDialog.svelte';
  import { KINDS, SORTS, STANDINGS, type Sheet } from './sheet.svelte';

  /** Which photos are shown, in which order, how large. */
  interface Props {
    sheet: Sheet;
    size: number;
  }
  let { sheet, size = $bindable() }: Props = $props();
  let binOpen = $state(false);
  let refusalsOpen = $state(false);
</script>

<div
  class="flex min-h-[40px] shrink-0 items-center gap-x-4 gap-y-1 overflow-x-auto border-b border-line bg-[var(--folded)] px-4"
>
  <div class="flex gap-4 whitespace-nowrap" role="group" aria-label="Which photos">
    <button class="tab" aria-pressed={!sheet.standing} onclick={() => (sheet.standing = null)}
      >All {sheet.through}</button
    >
    {#each STANDINGS as [state, word] (state)}
      {@const count = sheet.counts.get(state) ?? 0}
      {#if count || sheet.standing === state}
        <button
          class="tab"
          aria-pressed={sheet.standing === state}
          onclick={() => (sheet.standing = state)}>{word} {count}</button
        >
      {/if}
    {/each}
  </div>
  <span class="flex-1"></span>
  {#if sheet.refusals.length}
    <button class="quiet whitespace-nowrap" onclick={() => (refusalsOpen = true)}
      >{sheet.refusals.length} refused</button
    >
  {/if}
  {#if sheet.bin.length}
    <button class="quiet whitespace-nowrap" onclick={() => (binOpen = true)}
      >Bin {sheet.bin.length}</button
    >
  {/if}
  {#if sheet.kinds.length}
    <select class="field" aria-label="Kind of cast" bind:value={sheet.kind}>
      <option value="">any cast</option>
      {#each sheet.kinds as kind (kind)}<option value={kind}>{KINDS[kind] ?? kind}</option>{/each}
    </select>
  {/if}
  <input
    class="field w-[130px]"
    type="search"
    placeholder="words"
    aria-label="Words in names and captions"
    bind:value={sheet.words}
  />
  <select class="field" aria-label="Order" bind:value={sheet.sort}>
    {#each SORTS as [sort, word] (sort)}<option value={sort}>{word}</option>{/each}
  </select>
  <label class="flex items-center gap-2 text-ink2">
    size
    <input
      class="w-[80px] accent-[var(--ink)]"
      type="range"
      min="110"
      max="400"
      step="10"
      aria-label="Size of the pictures"
      bind:value={size}
    />
  </label>
</div>

<BinDialog {sheet} bind:open={binOpen} />
<RefusalsDialog {sheet} bind:open={refusalsOpen} />

<style>
  .tab {
    min-height: 40px;
    border-bottom: 2px solid transparent;
    border-top: 2px solid transparent;
  }
  .tab[aria-pressed='true'] {
    border-bottom-color: var(--ink);
    font-weight: 650;
  }
  .tab:hover {
    border-bottom-color: var(--line);
  }
</style>
