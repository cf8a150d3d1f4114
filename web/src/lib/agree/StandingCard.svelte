<script lang="ts">
  import type { Photo } from '../api/types';
  import Dial from '../dial/Dial.svelte';
  import { swatch } from '../instruments/swatch';
  import { link } from '../router.svelte';
  import type { Agreeing } from './agreeing.svelte';

  /** How one photo stands to the chosen colour. */
  interface Props {
    agreeing: Agreeing;
    photo: Photo;
    /** Pointed at in the plot. */
    lit: boolean;
    onpoint: () => void;
  }
  let { agreeing, photo, lit, onpoint }: Props = $props();
  const row = $derived(agreeing.standings.get(photo.id));
  const revision = $derived(agreeing.revisions.get(photo.id) ?? 0);
  /** Of what is shown around the place, as a share of the long edge. */
  const AROUND = 0.34;
  const treated = $derived(revision > photo.revision);

  /** The thumbnail so large and so placed that the place is in the middle. */
  const crop = $derived.by(() => {
    if (!row?.at) return '';
    const edge = Math.max(photo.width, photo.height);
    const [w, h] = [photo.width / edge / AROUND, photo.height / edge / AROUND];
    const [x, y] = row.at;
    return `width:${w * 100}%;left:${50 - (x / AROUND) * 100}%;top:${50 - ((y / AROUND) * 100 * 3) / 2}%;aspect-ratio:${w}/${h}`;
  });
  const lighter = $derived(row?.now ? Math.round(row.now.lighter) : 0);
</script>

<article class="flex flex-col bg-panel outline-offset-0 {lit ? 'outline-4 outline-[#161616]' : ''}">
  <div class="relative aspect-[3/2] overflow-hidden bg-surround">
    <img
      class={row?.at ? 'absolute max-w-none' : 'h-full w-full object-contain'}
      style={crop}
      src="/api/photos/{photo.id}/thumbnail?revision={revision}"
      alt=""
      draggable="false"
    />
    {#if row?.at}<span class="mark"></span>{/if}
    {#if row?.off}
      <span
        class="notched absolute top-1.5 left-1.5 bg-attention py-0.5 pr-2 text-small text-inverse"
        >off the rest</span
      >
    {/if}
  </div>
  <div class="flex flex-1 flex-col gap-1.5 p-2">
    <div class="flex items-center gap-2">
      <a
        href="/photos/{photo.id}"
        use:link
        class="min-w-0 flex-1 truncate font-semibold hover:underline"
        ><span class="sr-only">Open </span>{photo.title}</a
      >
      {#if row?.before && row.now}
        <span class="shrink-0"
          >{row.before.distance.toFixed(1)} → {row.now.distance.toFixed(1)}</span
        >
      {/if}
    </div>
    {#if row?.before && row.now}
      <div class="flex items-center gap-2 [--dial-ground:var(--panel)]">
        <span class="h-7 w-9" style:background={swatch(row.before)} title="Untreated"></span>
        <span class="h-7 w-9" style:background={swatch(row.now)} title="Now"></span>
        <Dial before={row.before.offset} after={row.now.offset} size={34} />
        <span class="min-w-0 flex-1 truncate text-ink2"
          >{lighter === 0
            ? 'as light'
            : `${Math.abs(lighter)} L* ${lighter > 0 ? 'lighter' : 'darker'}`}</span
        >
      </div>
    {:else}
      <p class="text-ink2">It was not found here.</p>
    {/if}
    <div class="mt-auto flex flex-wrap gap-1.5">
      {#if row?.off}
        <button
          class="button strong"
          disabled={agreeing.busy > 0}
          aria-label="Level {photo.title}"
          onclick={() => agreeing.level(photo)}>Level</button
        >
      {/if}
      {#if treated}
        <button
          class="button"
          aria-label="Undo on {photo.title}"
          onclick={() => agreeing.undo(photo)}>Undo</button
        >
      {/if}
      <button
        class="button"
        aria-label="{row?.at ? 'It is elsewhere' : 'Point at it'} in {photo.title}"
        onclick={onpoint}>{row?.at ? 'It is elsewhere' : 'Point at it'}</button
      >
    </div>
  </div>
</article>

<style>
  .mark {
    position: absolute;
    top: 50%;
    left: 50%;
    width: 15px;
    height: 15px;
    margin: -7px 0 0 -7px;
    border: 1px solid #161616;
    outline: 1px solid #f2f2f2;
  }
</style>
