<script lang="ts">
  import { ToggleGroup } from 'bits-ui';
  import PopoverPanel from '../controls/PopoverPanel.svelte';
  import { withKey } from '../help/commands';
  import { useStudio } from '../studio/studio.svelte';
  import { MODES, type Mode, type Side } from './compare.svelte';

  const { compare } = useStudio();
  const on = $derived(compare.mode !== 'off');
  type Which = 'a' | 'b' | 'c' | 'd';
  const ALL: [Which, string, boolean][] = [
    ['a', 'First', false],
    ['b', 'Second', false],
    ['c', 'Third', true],
    ['d', 'Fourth', true],
  ];

  function choose(which: Which, value: string): void {
    const side = value as Side;
    if (which === 'a' || which === 'b') compare[which] = side;
    else compare[which] = side || null;
  }
</script>

<PopoverPanel
  label="Compare"
  room="w-[372px]"
  pressed={on}
  title={withKey('Two to four states of the photo together', 'compare')}
>
  {#snippet button()}Compare<span aria-hidden="true">▾</span>{/snippet}

  <ToggleGroup.Root
    type="single"
    value={compare.mode}
    onValueChange={(value) => compare.set((value || 'off') as Mode)}
    class="joined mb-3 flex"
    aria-label="How two states are compared"
  >
    {#each MODES as [value, label] (value)}
      <ToggleGroup.Item {value} class="button flex-1 px-1">{label}</ToggleGroup.Item>
    {/each}
  </ToggleGroup.Root>
  {#each compare.mode === 'several' ? ALL : ALL.slice(0, 2) as [which, label, optional] (which)}
    <label class="mb-1.5 flex items-center gap-2">
      <span class="w-[56px]">{label}</span>
      <select
        class="field min-w-0 flex-1"
        aria-label="{label} state"
        value={compare[which] ?? ''}
        onchange={(event) => choose(which, event.currentTarget.value)}
      >
        {#if optional}<option value="">none</option>{/if}
        {#each compare.sides as [value, name] (value)}<option {value}>{name}</option>{/each}
      </select>
    </label>
  {/each}
</PopoverPanel>
