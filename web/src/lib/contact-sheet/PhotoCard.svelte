<script lang="ts">
  import { call } from '../api/client';
  import type { Dial as DialFigures, Photo } from '../api/types';
  import Dial from '../dial/Dial.svelte';
  import { link } from '../router.svelte';

  interface Props {
    photo: Photo;
    /** Its dials, as far as they are known: null when they must be asked for, undefined until that is told. */
    known: DialFigures[] | null | undefined;
    /** Grows when the photo was looked at. */
    looked: number;
    onremove: () => void;
  }
  let { photo, known, looked, onremove }: Props = $props();
  let dials = $state<DialFigures[]>([]);

  $effect(() => {
    if (!looked && known !== null) {
      dials = known ?? [];
      return;
    }
    // The card is worth showing without its dials; the work screen will tell what is wrong.
    void call('get', '/api/photos/{photo_id}/figures', { path: { photo_id: photo.id } })
      .then((read) => (dials = read))
      .catch(() => {});
  });
  const megapixels = $derived(((photo.width * photo.height) / 1e6).toFixed(1));
</script>

<article class="group relative flex flex-col bg-raised">
  <a href="/photos/{photo.id}" use:link class="flex flex-col">
    <span class="flex aspect-[3/2] items-center justify-center bg-surround p-3">
      <img
        class="max-h-full max-w-full object-contain"
        src="/api/photos/{photo.id}/thumbnail?revision={photo.revision}"
        alt=""
        loading="lazy"
        draggable="false"
      />
    </span>
    <span class="flex min-h-[86px] items-start gap-3 px-3 pt-2 pb-3">
      <span class="flex min-w-0 flex-1 flex-col">
        <span class="truncate text-lead font-semibold"
          ><span class="sr-only">Open </span>{photo.title}</span
        >
        {#if photo.caption}<span class="line-clamp-2 text-ink2">{photo.caption}</span>{/if}
        <span class="mt-0.5 text-small text-ink2">
          {megapixels} MP · {photo.file_format}{photo.bits === 16 ? ' 16 bit' : ''}
        </span>
      </span>
      {#each dials.slice(0, 3) as dial, i (i)}
        <span
          class="flex flex-col items-center text-small"
          style="--dial-ground: var(--raised)"
          title={dial.found ? `${dial.name}, not treated` : dial.name}
        >
          <Dial before={dial.offset_before} after={dial.offset_after} size={40} />
          {#if dial.before !== null && dial.after !== null}
            <span>{dial.before.toFixed(1)} → {dial.after.toFixed(1)}</span>
          {:else if dial.found && dial.before !== null}
            <span class="text-ink2">{dial.before.toFixed(1)} found</span>
          {/if}
        </span>
      {/each}
    </span>
  </a>
  <button
    class="quiet absolute top-1.5 right-1.5 bg-panel opacity-0 group-focus-within:opacity-100 group-hover:opacity-100"
    aria-label="Remove {photo.title} from the shoot"
    onclick={onremove}>Remove</button
  >
</article>
