<script lang="ts">
  import PopoverPanel from '../controls/PopoverPanel.svelte';
  import SliderRow from '../controls/SliderRow.svelte';
  import { room } from '../room/room.svelte';

  /** What masks are drawn with on the photo: its hue, and how much of it. */
  const ink = $derived(room.settings.ink);
  const FIRST_HUE = 330;
</script>

<PopoverPanel
  label="Ink"
  look="quiet px-1 text-ink2"
  room="w-[300px]"
  side="top"
  title="Hue and opacity of what shows the mask"
>
  {#snippet button()}ink<span aria-hidden="true">▾</span>{/snippet}

  <SliderRow
    label="Opacity"
    value={ink.opacity * 100}
    resting={85}
    least={10}
    most={100}
    step={1}
    unit=" %"
    onpreview={(v) => room.set({ ink: { ...ink, opacity: v / 100 } })}
    oncommit={(v) => room.set({ ink: { ...ink, opacity: v / 100 } })}
  />
  <label class="mt-1 flex items-center gap-2">
    <input
      type="checkbox"
      class="h-4 w-4 accent-[var(--ink)]"
      checked={ink.hue == null}
      onchange={(event) =>
        room.set({ ink: { ...ink, hue: event.currentTarget.checked ? null : FIRST_HUE } })}
    />
    A hue against the photo
  </label>
  {#if ink.hue != null}
    <SliderRow
      label="Hue"
      value={ink.hue}
      resting={FIRST_HUE}
      least={0}
      most={360}
      step={1}
      unit="°"
      onpreview={(hue) => room.set({ ink: { ...ink, hue } })}
      oncommit={(hue) => room.set({ ink: { ...ink, hue } })}
    />
  {/if}
</PopoverPanel>
