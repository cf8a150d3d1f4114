<script lang="ts">
  import NumberField from '../controls/NumberField.svelte';
  import type { TypedField } from './sample-values';

  /** Three numbers that are a colour in some space. */
  interface Props {
    label: string;
    fields: readonly TypedField[];
    values: readonly number[];
    onchange: (values: [number, number, number]) => void;
  }
  let { label, fields, values, onchange }: Props = $props();

  function set(i: number, value: number): void {
    const typed: [number, number, number] = [values[0] ?? 0, values[1] ?? 0, values[2] ?? 0];
    typed[i] = value;
    onchange(typed);
  }
</script>

<div class="flex items-center gap-2">
  {#each fields as { name, least, most, step }, i (name)}
    <label class="flex items-center gap-1">
      {name}
      <NumberField
        label="{label} {name}"
        value={values[i] ?? 0}
        {least}
        {most}
        {step}
        width={58}
        onchange={(value) => set(i, value)}
      />
    </label>
  {/each}
</div>
