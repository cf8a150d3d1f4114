<script lang="ts">
  import { Popover } from 'bits-ui';
  import { isActive } from '../base/base';
  import { pairToRefer } from '../recipe/edit';
  import ShootMaterials from '../references/ShootMaterials.svelte';
  import LibraryPicker from '../references/LibraryPicker.svelte';
  import { useStudio } from '../studio/studio.svelte';

  /** References that are not clicked on this photo: from the library, another photo, or the original. */
  const studio = useStudio();
  const pair = $derived(studio.cast && pairToRefer(studio.cast));
  const alone = studio.opened.neighbours.length < 2;
  const based = $derived(isActive(studio.recipe.base));
  let open = $state(false);

  function openBeside(): void {
    studio.besideOpen = true;
    open = false;
  }
</script>

<Popover.Root
  bind:open
  onOpenChange={(opened) => opened && void studio.attempt(() => studio.library.load())}
>
  <Popover.Trigger class="button" disabled={!pair} aria-label="Reference from elsewhere"
    >From<span aria-hidden="true">▾</span></Popover.Trigger
  >
  <Popover.Portal>
    <Popover.Content
      class="menu w-[420px] p-3"
      role="dialog"
      aria-label="Reference from elsewhere"
      side="top"
      align="start"
      sideOffset={4}
    >
      <div class="mb-2 flex flex-wrap gap-1.5">
        <button class="button" disabled={alone} onclick={openBeside}>Another photo beside</button>
        <button
          class="button"
          disabled={!based || !pair?.tainted.at}
          title={based
            ? 'The same place before the base was set'
            : 'The base is at rest: the photo is as it came'}
          onclick={() => studio.sampler.asItCame()}>The place as it came</button
        >
      </div>
      <ShootMaterials
        photoId={studio.photo.id}
        onpick={(title, colour) => studio.sampler.fromPhoto(title, colour)}
      />
      <LibraryPicker
        library={studio.library}
        onpick={(entry) => studio.sampler.fromLibrary(entry)}
      />
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
