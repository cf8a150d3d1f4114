<script lang="ts">
  import { ToggleGroup } from 'bits-ui';
  import PopoverPanel from '../controls/PopoverPanel.svelte';
  import { withKey } from '../help/commands';
  import { useStudio } from '../studio/studio.svelte';
  import { MODES, type Mode, type Side } from './compare.svelte';

  const { compare } = useStudio();
  const on = $derived(compare.mode !== 'off');
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
  {#each [['a', 'First'], ['b', 'Second']] as const as [which, label] (which)}
    <label class="mb-1.5 flex items-center gap-2">
      <span class="w-[56px]">{label}</span>
      <select
        class="field min-w-0 flex-1"
        aria-label="{label} state"
        value={compare[which]}
        onchange={(event) => (compare[which] = event.currentTarget.value as Side)}
      >
        {#each compare.sides as [value, name] (value)}<option {value}>{name}</option>{/each}
      </select>
    </label>
  {/each}
  {#if compare.mode === 'several'}
    {#each [['c', 'Third'], ['d', 'Fourth']] as const as [which, label] (which)}
      <label class="mb-1.5 flex items-center gap-2">
        <span class="w-[56px]">{label}</span>
        <select
          class="field min-w-0 flex-1"
          aria-label="{label} state"
          value={compare[which] ?? ''}
          onchange={(event) =>
            (compare[which] = (event.currentTarget.value || null) as Side | null)}
        >
          <option value="">none</option>
          {#each compare.sides as [value, name] (value)}<option {value}>{name}</option>{/each}
        </select>
      </label>
    {/each}
  {/if}
</PopoverPanel>
