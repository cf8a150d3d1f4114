<script lang="ts">
  import { DropdownMenu, Popover } from 'bits-ui';
  import { isActive } from '../base/base';
  import LibraryPicker from '../references/LibraryPicker.svelte';
  import { pairToRefer } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';

  /** References that are not clicked on this photo: from the library, another photo, or the original. */
  const studio = useStudio();
  const pair = $derived(studio.cast && pairToRefer(studio.cast));
  const alone = studio.opened.neighbours.length < 2;
  const asSet = $derived(isActive(studio.recipe.base));
</script>

<Popover.Root onOpenChange={(open) => open && void studio.attempt(() => studio.library.load())}>
  <Popover.Trigger class="button" disabled={!pair} title="A kept colour as the reference"
    >Library</Popover.Trigger
  >
  <Popover.Portal>
    <Popover.Content class="menu w-[420px] p-3" side="top" align="start" sideOffset={4}>
      <LibraryPicker
        library={studio.library}
        onpick={(entry) => studio.sampler.fromLibrary(entry)}
      />
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
<DropdownMenu.Root>
  <DropdownMenu.Trigger class="button" disabled={!pair} aria-label="References from elsewhere"
    >From<span aria-hidden="true">▾</span></DropdownMenu.Trigger
  >
  <DropdownMenu.Portal>
    <DropdownMenu.Content class="menu" side="top" align="end" sideOffset={4}>
      <DropdownMenu.Item
        class="menu-item"
        disabled={alone}
        onSelect={() => (studio.besideOpen = true)}
      >
        Another photo of the shoot
        {#if alone}<span class="text-small text-ink2">there is none</span>{/if}
      </DropdownMenu.Item>
      <DropdownMenu.Item
        class="menu-item"
        disabled={!asSet || !pair?.tainted.at}
        onSelect={() => studio.sampler.asItCame()}
      >
        The same place as the photo came
        {#if !asSet}<span class="text-small text-ink2">the base is at rest</span>{/if}
      </DropdownMenu.Item>
    </DropdownMenu.Content>
  </DropdownMenu.Portal>
</DropdownMenu.Root>
