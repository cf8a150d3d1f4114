<script lang="ts">
  import { RadioGroup } from 'bits-ui';
  import type { FileFormat } from '../api/types';
  import { FORMATS } from './order';

  interface Props {
    format: FileFormat;
    onchange: (format: FileFormat) => void;
  }
  let { format, onchange }: Props = $props();
  const note = $derived(FORMATS.find(([value]) => value === format)?.[2] ?? '');
</script>

<div>
  <RadioGroup.Root
    value={format}
    onValueChange={(value) => onchange(value as FileFormat)}
    class="flex flex-col"
    aria-label="File format"
  >
    {#each FORMATS as [value, label] (value)}
      <RadioGroup.Item
        {value}
        class="flex min-h-[27px] items-center px-2 text-left data-[state=checked]:bg-ink data-[state=checked]:text-inverse"
      >
        {label}
      </RadioGroup.Item>
    {/each}
  </RadioGroup.Root>
  <p class="mt-1.5 px-2 text-ink2">{note}</p>
</div>
