<script lang="ts">
  import { Popover, ToggleGroup } from 'bits-ui';
  import { useStudio } from '../studio/studio.svelte';
  import { MODES, type Mode, type Side } from './compare.svelte';

  const { compare } = useStudio();
  const on = $derived(compare.mode !== 'off');
</script>

<Popover.Root>
  <Popover.Trigger
    class="button tall"
    aria-pressed={on}
    title="Two states of the photo together (Y)"
  >
    Compare<span aria-hidden="true">▾</span>
  </Popover.Trigger>
  <Popover.Portal>
    <Popover.Content
      role="dialog"
      class="z-30 w-[330px] border border-ink bg-raised p-3"
      align="end"
      sideOffset={6}
      aria-label="Compare"
    >
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
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
