<script lang="ts">
  import { tick } from 'svelte';
  import type { Photo } from '../api/types';
  import { router } from '../router.svelte';
  import PhotoTile from './PhotoTile.svelte';
  import { beside, layOut, rowsWithin, scrolledTo, touched, type Rect, type Way } from './rows';
  import type { Sheet } from './sheet.svelte';

  interface Props {
    sheet: Sheet;
    /** Of a row, pixels. */
    size: number;
    onremove: () => void;
  }
  let { sheet, size, onremove }: Props = $props();
  // One sheet is made per shoot.
  // svelte-ignore state_referenced_locally
  const { selection } = sheet;

  const MARGIN = 14;
  /** Drawn beyond what is seen, so that a flick of the wheel meets pictures. */
  const BEYOND = 700;
  const DRAGGED = 5;
  let viewport: HTMLElement;
  let width = $state(0);
  let height = $state(0);
  let top = $state(0);
  let rect = $state<Rect | null>(null);

  const layout = $derived(layOut(sheet.shown, Math.max(width - 2 * MARGIN, 50), size));
  const rows = $derived(rowsWithin(layout, top - BEYOND, top + height + BEYOND));
  const current = $derived(
    selection.focus !== null && sheet.shown.some((p) => p.id === selection.focus)
      ? selection.focus
      : (sheet.shown[0]?.id ?? null),
  );
  // What is computed for a card is asked for when it is seen.
  $effect(() => {
    for (const row of rows) for (const tile of row.tiles) void sheet.complete(tile.id);
  });

  const KEYS: Record<string, Way> = {
    ArrowLeft: 'left',
    ArrowRight: 'right',
    ArrowUp: 'up',
    ArrowDown: 'down',
    Home: 'first',
    End: 'last',
  };

  function keydown(event: KeyboardEvent): void {
    const on = (event.target as HTMLElement).closest('article button');
    if (!on || current === null) return;
    const way = KEYS[event.key];
    if (way) {
      const to = beside(layout, current, way);
      if (event.shiftKey) selection.pick(to, { range: true });
      else selection.focus = to;
      if (selection.anchor === null) selection.anchor = current;
      void show(to);
    } else if (event.key === ' ') selection.pick(current, { more: true });
    else if (event.key === 'Enter') router.go(`/photos/${current}`);
    else if (event.key === 'Delete') {
      if (!selection.count) selection.pick(current);
      onremove();
    } else return;
    event.preventDefault();
  }

  /** Scroll a photo into view and take the keyboard there. */
  async function show(id: number): Promise<void> {
    const row = layout.rows.find((r) => r.tiles.some((t) => t.id === id));
    if (row) viewport.scrollTop = scrolledTo(row, viewport.scrollTop, height, MARGIN);
    top = viewport.scrollTop;
    await tick();
    viewport.querySelector<HTMLElement>(`article[data-id="${id}"] button`)?.focus();
  }

  function pick(photo: Photo, event: MouseEvent): void {
    // A key's click tells of itself in keydown.
    if (event.detail === 0) return;
    const more = event.ctrlKey || event.metaKey;
    selection.pick(photo.id, { range: event.shiftKey, more });
  }

  function within(event: PointerEvent): { x: number; y: number } {
    const box = viewport.getBoundingClientRect();
    return {
      x: event.clientX - box.left - MARGIN,
      y: event.clientY - box.top - MARGIN + viewport.scrollTop,
    };
  }

  /** A rectangle drawn over the sheet chooses what it touches. */
  function pointerdown(event: PointerEvent): void {
    if (event.button !== 0 || (event.target as HTMLElement).closest('a')) return;
    // A finger that moves scrolls; one that taps chooses, by its click.
    if (event.pointerType === 'touch') return;
    const start = within(event);
    // The scroll bar is no part of the sheet.
    if (start.x + MARGIN > viewport.clientWidth) return;
    const before = event.ctrlKey || event.shiftKey ? [...selection.ids] : [];
    let dragged = false;
    const move = (moved: PointerEvent): void => {
      const now = within(moved);
      dragged ||= Math.hypot(now.x - start.x, now.y - start.y) > DRAGGED;
      if (!dragged) return;
      rect = { x0: start.x, y0: start.y, x1: now.x, y1: now.y };
      selection.set([...before, ...touched(layout, rect)]);
      scrollAtRim(moved);
    };
    const up = (): void => {
      removeEventListener('pointermove', move);
      removeEventListener('pointerup', up);
      removeEventListener('pointercancel', up);
      rect = null;
      if (dragged) addEventListener('click', swallow, { capture: true, once: true });
      else if (event.target === viewport || event.target === viewport.firstElementChild)
        selection.none();
      setTimeout(() => removeEventListener('click', swallow, { capture: true }));
    };
    addEventListener('pointermove', move);
    addEventListener('pointerup', up);
    addEventListener('pointercancel', up);
  }

  /** The click that ends a drag is none. */
  const swallow = (event: Event): void => event.stopPropagation();

  function scrollAtRim(event: PointerEvent): void {
    const box = viewport.getBoundingClientRect();
    if (event.clientY > box.bottom - 20) viewport.scrollTop += 20;
    else if (event.clientY < box.top + 20) viewport.scrollTop -= 20;
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<div
  bind:this={viewport}
  bind:clientWidth={width}
  bind:clientHeight={height}
  class="relative min-h-0 flex-1 overflow-y-scroll bg-sheet select-none"
  role="group"
  aria-label="Photos"
  onscroll={() => (top = viewport.scrollTop)}
  onkeydown={keydown}
  onpointerdown={pointerdown}
>
  <div class="relative" style:margin="{MARGIN}px" style:height="{layout.height}px">
    {#each rows as row (row.tiles[0]?.id)}
      {#each row.tiles as tile (tile.id)}
        {@const photo = sheet.shown[tile.index]}
        {#if photo}
          <PhotoTile
            {photo}
            card={sheet.cards.get(tile.id)}
            {tile}
            chosen={selection.ids.has(tile.id)}
            current={tile.id === current}
            onpick={(event) => pick(photo, event)}
            onopen={() => router.go(`/photos/${photo.id}`)}
          />
        {/if}
      {/each}
    {/each}
    {#if rect}
      <div
        class="pointer-events-none absolute border border-[#161616] bg-white/15"
        style:left="{Math.min(rect.x0, rect.x1)}px"
        style:top="{Math.min(rect.y0, rect.y1)}px"
        style:width="{Math.abs(rect.x1 - rect.x0)}px"
        style:height="{Math.abs(rect.y1 - rect.y0)}px"
      ></div>
    {/if}
  </div>
</div>
