<script lang="ts">
  import { RadioGroup } from 'bits-ui';
  import type { FileFormat, FileWanted } from '../api/types';
  import { FORMATS, needsSrgb, SPACES, withFormat } from './wanted';

  /** Format, space and size of files that are delivered. */
  interface Props {
    wanted: FileWanted;
    onchange: (wanted: FileWanted) => void;
  }
  let { wanted, onchange }: Props = $props();
  const LEAST = 16;
  const MOST = 60000;

  function resize(text: string): void {
    const pixels = Math.round(Number(text));
    const long_edge = text.trim() && pixels ? Math.min(Math.max(pixels, LEAST), MOST) : null;
    onchange({ ...wanted, long_edge });
  }
</script>

<RadioGroup.Root
  value={wanted.file_format}
  onValueChange={(value) => onchange(withFormat(wanted, value as FileFormat))}
  class="flex flex-col"
  aria-label="File format"
>
  {#each FORMATS as [value, label, note] (value)}
    <RadioGroup.Item
      {value}
      class="flex min-h-[30px] items-center gap-3 px-2 text-left data-[state=checked]:bg-ink data-[state=checked]:text-inverse"
    >
      <span class="w-[108px]">{label}</span>
      <span class={wanted.file_format === value ? 'text-inverse2' : 'text-ink2'}>{note}</span>
    </RadioGroup.Item>
  {/each}
</RadioGroup.Root>
<div class="mt-3 flex items-center gap-4 px-2">
  <label class="flex items-center gap-2">
    Profile
    <select
      class="field"
      value={wanted.space}
      disabled={needsSrgb(wanted.file_format)}
      onchange={(event) =>
        onchange({ ...wanted, space: event.currentTarget.value as FileWanted['space'] })}
    >
      {#each SPACES as [space, word] (space)}<option value={space}>{word}</option>{/each}
    </select>
  </label>
  <label class="flex items-center gap-2">
    Long edge
    <input
      class="field w-[70px] text-right"
      inputmode="numeric"
      placeholder="all"
      value={wanted.long_edge ?? ''}
      onchange={(event) => resize(event.currentTarget.value)}
    />
    pixels
  </label>
</div>
