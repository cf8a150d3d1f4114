<script lang="ts">
  import { KIND_NAMES, lchOf, lightOf } from '../sample/sample-values';
  import { useStudio } from '../studio/studio.svelte';
  import Figures from './Figures.svelte';
  import ScopePanel from './ScopePanel.svelte';
  import { swatch } from './swatch';

  const studio = useStudio();
  const measured = $derived(studio.probe.measured);
  const photo = studio.photo;
  const seen = $derived(measured?.now ?? measured?.before);
</script>

<aside
  class="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-line p-3"
  aria-label="Instruments"
>
  <ScopePanel />
  <section>
    <h2 class="mb-1 font-semibold">Under the pointer</h2>
    {#if measured}
      <div class="flex gap-4" data-testid="readout">
        {#each [['before', measured.before], ['now', measured.now]] as const as [name, colour] (name)}
          {#if colour}
            <div class="flex flex-col gap-1">
              <span class="h-6 w-[76px]" style:background={swatch(colour)}></span>
              <span class="text-small text-ink2">{name}</span>
              <Figures lab={colour.lab} />
              <span class="text-small text-ink2">{colour.codes.join(' ')}</span>
            </div>
          {/if}
        {/each}
      </div>
      <p class="mt-1 text-small text-ink2" data-testid="readout-more">
        {#if seen}
          {@const light = lightOf(seen)}
          OKLCh {lchOf(seen)}<br />
          {#if light}As grey: {light}<br />{/if}
          May be: {KIND_NAMES[seen.kind].toLowerCase()}
        {/if}
      </p>
    {:else}
      <p class="text-ink2">Move over the photo to read its colour in CIELAB.</p>
    {/if}
  </section>
  <section class="mt-auto">
    <p class="text-small text-ink2" title={[photo.profile, ...photo.notes].join('. ')}>
      {photo.width} × {photo.height}, {photo.bits} bit {photo.file_format}, {photo.profile}
    </p>
    {#each photo.notes as note (note)}<p class="mt-1 text-small text-ink2">{note}.</p>{/each}
  </section>
</aside>
