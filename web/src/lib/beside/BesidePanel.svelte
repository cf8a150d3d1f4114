<script lang="ts">
  import { call, reasonOf } from '../api/client';
  import type { PhotoWithRecipe, Shoot } from '../api/types';
  import { useStudio } from '../studio/studio.svelte';
  import BesidePhoto from './BesidePhoto.svelte';

  /** Another photo of the shoot, beside the one in work: a click on it is a reference. */
  const studio = useStudio();
  let photos = $state.raw<Shoot['photos']>([]);
  let opened = $state.raw<PhotoWithRecipe | null>(null);
  let untouched = $state(false);
  let trouble = $state('');

  $effect(() => void start());

  async function start(): Promise<void> {
    try {
      const shoot = await call('get', '/api/shoots/{shoot_id}', {
        path: { shoot_id: studio.opened.shoot_id },
      });
      photos = shoot.photos.filter((p) => p.id !== studio.photo.id);
      const chosen = photos.find((p) => p.id === studio.besideId) ?? photos[0];
      if (chosen) await open(chosen.id);
    } catch (error) {
      trouble = reasonOf(error);
    }
  }

  async function open(id: number): Promise<void> {
    trouble = '';
    try {
      studio.besideId = id;
      const answer = await call('get', '/api/photos/{photo_id}', { path: { photo_id: id } });
      if (studio.besideId === id) opened = answer; // else another was chosen meanwhile
    } catch (error) {
      trouble = reasonOf(error);
    }
  }
</script>

<section
  class="flex min-w-0 flex-col border-l border-line bg-surround"
  aria-label="Another photo of the shoot"
>
  <header class="flex min-h-[36px] items-center gap-2 bg-panel px-2">
    <select
      class="field min-w-0 flex-1"
      aria-label="Photo beside"
      value={opened?.photo.id}
      onchange={(event) => open(Number(event.currentTarget.value))}
    >
      {#each photos as photo (photo.id)}<option value={photo.id}>{photo.title}</option>{/each}
    </select>
    <button
      class="button px-1.5"
      aria-pressed={untouched}
      title="Show and sample it as it came, without its base and casts"
      onclick={() => (untouched = !untouched)}>As it came</button
    >
    <button
      class="quiet"
      aria-label="Close the photo beside"
      onclick={() => (studio.besideOpen = false)}>×</button
    >
  </header>
  {#if trouble}<p role="alert" class="m-2 text-inverse">{trouble}.</p>{/if}
  {#if opened}{#key opened.photo.id}<BesidePhoto {opened} {untouched} />{/key}{/if}
</section>
