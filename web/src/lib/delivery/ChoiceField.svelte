<script lang="ts" generics="Value extends string">
  /** One of a few words. */
  interface Props {
    label: string;
    value: Value;
    words: readonly (readonly [Value, string])[];
    onchange: (value: Value) => void;
  }
  let { label, value, words, onchange }: Props = $props();
</script>

<select
  class="field"
  aria-label={label}
  {value}
  onchange={(event) => onchange(event.currentTarget.value as Value)}
>
  {#each words as [word, told] (word)}<option value={word}>{told}</option>{/each}
</select>
