<script lang="ts">
  import { Popover } from 'bits-ui';
  import type { Pair, PairProof } from '../api/types';
  import NumberField from '../controls/NumberField.svelte';
  import { swatch } from '../instruments/swatch';
  import { useStudio } from '../studio/studio.svelte';

  /** The patch of what a sample should be; opened, its CIELAB values can be typed. */
  let { pair, shown }: { pair: Pair; shown: PairProof | undefined } = $props();
  const studio = useStudio();
  const lab = $derived(shown?.should_be?.lab);
  const fields = ['L*', 'a*', 'b*'] as const;
</script>

<Popover.Root>
  <Popover.Trigger
    class="patch"
    style="background: {swatch(shown?.should_be)}"
    title="Should be. Open to type its values."
    aria-label="Reference colour, type its values"
  ></Popover.Trigger>
  <Popover.Portal>
    <Popover.Content class="menu p-3" side="top" align="start" sideOffset={4}>
      <p class="mb-2 text-small text-ink2">Should be, in CIELAB</p>
      <div class="flex items-center gap-2">
        {#each fields as name, i (name)}
          <label class="flex items-center gap-1">
            {name}
            <NumberField
              label="Reference {name}"
              value={lab?.[i] ?? 0}
              least={i ? -128 : 0}
              most={i ? 128 : 100}
              step={0.1}
              width={58}
              onchange={(value) => {
                if (!lab) return;
                const typed: [number, number, number] = [...lab];
                typed[i] = value;
                void studio.sampler.typeReference(pair.id, typed);
              }}
            />
          </label>
        {/each}
      </div>
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
