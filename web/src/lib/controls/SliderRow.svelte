<script lang="ts">
  import { Slider } from 'bits-ui';
  import NumberField from './NumberField.svelte';

  /** A named value: slider, number field, resting mark. Double click goes back to rest. */
  interface Props {
    label: string;
    value: number;
    resting: number;
    least: number;
    most: number;
    step?: number;
    unit?: string;
    labelWidth?: number;
    disabled?: boolean;
    onpreview: (value: number) => void;
    oncommit: (value: number) => void;
  }
  let {
    label,
    value,
    resting,
    least,
    most,
    step = 1,
    unit = '',
    labelWidth = 78,
    disabled = false,
    onpreview,
    oncommit,
  }: Props = $props();

  const rest = $derived(((resting - least) / (most - least)) * 100);
</script>

<div class="flex h-[26px] items-center gap-2">
  <span class="shrink-0" style:width="{labelWidth}px">{label}</span>
  <div
    class="relative min-w-0 flex-1"
    role="presentation"
    ondblclick={() => !disabled && oncommit(resting)}
  >
    <span class="rest" style:left="calc({rest}% + {5 - rest / 10}px)" title="at rest"></span>
    <Slider.Root
      type="single"
      {value}
      min={least}
      max={most}
      {step}
      {disabled}
      thumbPositioning="contain"
      class="relative flex h-6 w-full touch-none items-center select-none"
      onValueChange={(next) => next !== value && onpreview(next)}
      onValueCommit={oncommit}
    >
      <span class="relative h-[3px] w-full bg-line">
        <Slider.Range class="absolute h-full bg-ink" />
      </span>
      <Slider.Thumb index={0} class="block h-[18px] w-[10px] bg-ink" aria-label={label} />
    </Slider.Root>
  </div>
  <NumberField {label} {value} {least} {most} {step} {unit} onchange={oncommit} />
</div>

<style>
  .rest {
    position: absolute;
    top: 17px;
    width: 1px;
    height: 6px;
    background: var(--ink2);
  }
</style>
