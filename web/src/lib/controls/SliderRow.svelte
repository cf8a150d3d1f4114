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
    /** More than the slider reaches may be typed. */
    beyond?: number;
    unit?: string;
    labelWidth?: number;
    disabled?: boolean;
    /** The bar grows from the resting value rather than from the least one. */
    fromRest?: boolean;
    /** Where a value lies on the bar, and back, when even steps would not be even to the eye. */
    toBar?: (value: number) => number;
    fromBar?: (position: number) => number;
    width?: number;
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
    beyond,
    unit = '',
    labelWidth = 78,
    disabled = false,
    fromRest = false,
    toBar = (v) => v,
    fromBar = (v) => v,
    width = 54,
    onpreview,
    oncommit,
  }: Props = $props();

  /** The slider rounds values that were typed to its steps; only what the hand does counts. */
  let acting = false;

  const ends = $derived([toBar(least), toBar(most)].sort((a, b) => a - b) as [number, number]);
  const share = (v: number): number =>
    ((Math.min(toBar(v), ends[1]) - ends[0]) / (ends[1] - ends[0])) * 100;
  const rest = $derived(share(resting));
  const now = $derived(share(value));
</script>

<div class="flex h-[26px] items-center gap-2">
  <span class="shrink-0" style:width="{labelWidth}px">{label}</span>
  <div
    class="relative min-w-0 flex-1"
    role="presentation"
    onpointerdowncapture={() => (acting = true)}
    onkeydowncapture={() => (acting = true)}
    onfocusout={() => (acting = false)}
    ondblclick={() => !disabled && oncommit(resting)}
  >
    <span class="rest" style:left="calc({rest}% + {5 - rest / 10}px)" title="at rest"></span>
    <Slider.Root
      type="single"
      value={toBar(value)}
      min={ends[0]}
      max={ends[1]}
      {step}
      {disabled}
      thumbPositioning="contain"
      class="relative flex h-6 w-full touch-none items-center select-none"
      onValueChange={(next) => acting && next !== toBar(value) && onpreview(fromBar(next))}
      onValueCommit={(next) => {
        if (acting) oncommit(fromBar(next));
        acting = false;
      }}
    >
      <span class="relative h-[3px] w-full bg-line">
        {#if fromRest}
          <span
            class="absolute h-full bg-ink"
            style:left="{Math.min(rest, now)}%"
            style:width="{Math.abs(now - rest)}%"
          ></span>
        {:else}
          <Slider.Range class="absolute h-full bg-ink" />
        {/if}
      </span>
      <Slider.Thumb index={0} class="block h-[18px] w-[10px] bg-ink" aria-label={label} />
    </Slider.Root>
  </div>
  <NumberField
    {label}
    {value}
    {least}
    most={beyond ?? most}
    {step}
    {unit}
    {width}
    onchange={oncommit}
  />
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
