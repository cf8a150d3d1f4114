<script lang="ts">
  import type { Measured } from '../api/types';
  import NumberField from '../controls/NumberField.svelte';

  /** A colour by its CIELAB D50 values. */
  interface Props {
    label: string;
    lab: Measured['lab'];
    onchange: (lab: Measured['lab']) => void;
  }
  let { label, lab, onchange }: Props = $props();
  const fields = ['L*', 'a*', 'b*'] as const;

  function set(i: number, value: number): void {
    const typed: Measured['lab'] = [...lab];
    typed[i] = value;
    onchange(typed);
  }
</script>

<div class="mt-2 flex items-center gap-2">
  {#each fields as name, i (name)}
    <label class="flex items-center gap-1">
      {name}
      <NumberField
        label="{label} {name}"
        value={lab[i] ?? 0}
        least={i ? -128 : 0}
        most={i ? 128 : 100}
        step={0.1}
        width={58}
        onchange={(value) => set(i, value)}
      />
    </label>
  {/each}
</div>
