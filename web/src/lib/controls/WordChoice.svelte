<script lang="ts" generics="Value extends string">
  import { ToggleGroup } from 'bits-ui';

  /** One of a few words; what is pressed again stays. */
  interface Props {
    label: string;
    value: Value;
    words: readonly (readonly [Value, string])[];
    onchange: (value: Value) => void;
  }
  let { label, value, words, onchange }: Props = $props();
</script>

<ToggleGroup.Root
  type="single"
  bind:value={() => value as string, (next) => next && onchange(next as Value)}
  class="flex gap-0.5"
  aria-label={label}
>
  {#each words as [word, told] (word)}
    <ToggleGroup.Item
      value={word}
      class="quiet px-1.5 text-ink2 data-[state=on]:bg-ink data-[state=on]:text-inverse"
      >{told}</ToggleGroup.Item
    >
  {/each}
</ToggleGroup.Root>
