<script lang="ts">
  import { call } from '../api/client';
  import type { KnownMaterial } from '../api/types';
  import { swatch } from '../instruments/swatch';

  /** Colours that served as references in other photos of the shoot: a click takes one. */
  interface Props {
    photoId: number;
    onpick: (title: string, colour: KnownMaterial['colour']) => void;
  }
  let { photoId, onpick }: Props = $props();
  let known = $state.raw<KnownMaterial[]>([]);

  $effect(() => {
    const path = { photo_id: photoId };
    // Without them, the library is there.
    void call('get', '/api/photos/{photo_id}/materials', { path })
      .then((found) => (known = found))
      .catch(() => {});
  });

  const where = ({ photos }: KnownMaterial): string =>
    photos.length === 1 ? (photos[0] ?? '') : `${photos.length} photos`;
</script>

{#if known.length}
  <h3 class="mb-1 text-small font-semibold">Known to this shoot</h3>
  <ul class="mb-2 grid max-h-[120px] grid-cols-2 gap-1 overflow-y-auto">
    {#each known as material (material)}
      <li>
        <button
          class="flex w-full items-center gap-2 text-left hover:bg-field"
          title={material.photos.join(', ')}
          onclick={() => onpick(where(material), material.colour)}
        >
          <span class="h-6 w-8 shrink-0" style:background={swatch(material.colour)}></span>
          <span class="min-w-0 truncate">{material.kind}, in {where(material)}</span>
        </button>
      </li>
    {/each}
  </ul>
{/if}
