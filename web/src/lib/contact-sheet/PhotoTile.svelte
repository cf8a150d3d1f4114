<script lang="ts">
  import type { Card, Photo } from '../api/types';
  import Dial from '../dial/Dial.svelte';
  import { link } from '../router.svelte';
  import { CAPTION, type Tile } from './rows';

  interface Props {
    photo: Photo;
    card: Card | undefined;
    tile: Tile;
    chosen: boolean;
    /** Whether the keyboard is here. */
    current: boolean;
    onpick: (event: MouseEvent) => void;
    onopen: () => void;
  }
  let { photo, card, tile, chosen, current, onpick, onopen }: Props = $props();
  const dials = $derived((card?.dials ?? []).filter((d) => d.on));
  const worst = $derived(
    dials.reduce<(typeof dials)[number] | null>(
      (most, d) => ((d.before ?? 0) > (most?.before ?? -1) ? d : most),
      null,
    ),
  );
  const figure = $derived.by(() => {
    if (card?.state === 'asks') return 'asks';
    if (!worst || worst.before === null) return '';
    if (worst.found) return `${worst.before.toFixed(1)} found`;
    return worst.after === null ? '' : `${worst.before.toFixed(1)} → ${worst.after.toFixed(1)}`;
  });
  const more = $derived(
    [
      photo.caption,
      `${((photo.width * photo.height) / 1e6).toFixed(1)} MP`,
      `${photo.file_format}${photo.bits === 16 ? ' 16 bit' : ''}`,
      card?.check,
    ]
      .filter(Boolean)
      .join(' · '),
  );
</script>

<article
  class="absolute"
  data-id={photo.id}
  style:left="{tile.x}px"
  style:top="{tile.y}px"
  style:width="{tile.width}px"
  style:height="{tile.height + CAPTION}px"
>
  <button
    class="relative block h-full w-full cursor-default"
    style:height="{tile.height}px"
    aria-label="Choose {photo.title}"
    aria-pressed={chosen}
    tabindex={current ? 0 : -1}
    title={more}
    onclick={onpick}
    ondblclick={onopen}
  >
    <img
      class="block h-full w-full object-cover"
      src="/api/photos/{photo.id}/thumbnail?revision={photo.revision}{photo.preview
        ? '&preview'
        : ''}"
      alt=""
      decoding="async"
      draggable="false"
    />
    {#if chosen}
      <span class="pointer-events-none absolute -inset-[4px] border-4 border-[#161616]"></span>
    {/if}
    {#if card?.state === 'check'}
      <span
        class="notched absolute top-1.5 left-1.5 bg-attention py-0.5 pr-2 text-small text-inverse"
        >check this</span
      >
    {/if}
  </button>
  <div
    class="photo-caption flex items-center gap-1.5 overflow-hidden px-0.5 whitespace-nowrap"
    style:height="{CAPTION}px"
  >
    {#if card?.state === 'asks'}
      <span class="letter" aria-hidden="true">?</span>
    {/if}
    {#each card?.letters.slice(0, 4) ?? [] as letter (letter)}
      <span class="letter">{letter}</span>
    {/each}
    <a href="/photos/{photo.id}" use:link class="min-w-0 flex-1 truncate hover:underline">
      <span class="sr-only">Open </span>{photo.title}
    </a>
    {#if worst && figure && tile.width > 200}
      <Dial before={worst.offset_before} after={worst.offset_after} size={22} />
    {/if}
    {#if tile.width > 120}<span class="shrink-0">{figure}</span>{/if}
  </div>
</article>

<style>
  .photo-caption {
    color: var(--on-sheet);
    --dial-ground: var(--sheet);
  }
  .letter {
    min-width: 18px;
    border: 1px solid currentColor;
    text-align: center;
    font-size: 11px;
    font-weight: 650;
    line-height: 16px;
  }
</style>
