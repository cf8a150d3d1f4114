<script lang="ts" generics="Value extends string">
  import { DropdownMenu } from 'bits-ui';

  /** One of several, inside a menu; the chosen one is marked. */
  interface Props {
    value: Value;
    choices: [Value, string][];
    onchoose: (value: Value) => void;
  }
  let { value, choices, onchoose }: Props = $props();
</script>

<DropdownMenu.RadioGroup {value} onValueChange={(next) => onchoose(next as Value)}>
  {#each choices as [choice, label] (choice)}
    <DropdownMenu.RadioItem value={choice} class="menu-item">
      {#snippet children({ checked })}{label}<span>{checked ? '●' : ''}</span>{/snippet}
    </DropdownMenu.RadioItem>
  {/each}
</DropdownMenu.RadioGroup>
<DropdownMenu.Separator class="my-1 h-px bg-line" />
