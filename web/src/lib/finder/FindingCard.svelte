<script lang="ts">
  import type { Finding } from '../api/types';
  import Dial from '../dial/Dial.svelte';
  import { letterOf } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import { capital } from '../recipe/kinds';
  import { because } from './finder.svelte';

  let { finding, index }: { finding: Finding; index: number } = $props();
  const studio = useStudio();
  const letter = $derived(letterOf(studio.recipe.casts.length + index));
  const shown = $derived(studio.finder.hovered === finding.id);
  const off = $derived<[number, number]>([finding.cast[1], finding.cast[2]]);
  const name = $derived(`${capital(finding.towards)} cast`);

  function show(yes: boolean): void {
    if (yes) studio.finder.hovered = finding.id;
    else if (shown) studio.finder.hovered = null;
  }
</script>

<article
  class="border border-dashed p-2.5 {shown ? 'border-ink bg-raised' : 'border-line'}"
  style="--dial-ground: {shown ? 'var(--raised)' : 'var(--panel)'}"
  aria-label="Finding {letter}: {name}"
  onpointerenter={() => show(true)}
  onpointerleave={() => show(false)}
  onfocusin={() => show(true)}
  onfocusout={() => show(false)}
>
  <div class="flex items-center gap-2.5">
    <Dial before={off} after={null} />
    <div class="min-w-0 flex-1">
      <span class="flex items-center gap-1.5">
        <span class="letter">{letter}</span>
        <span class="truncate font-semibold">{name}</span>
      </span>
      <span class="block text-small text-ink2">{because(finding)}</span>
      <span class="block font-semibold" title="Estimated ΔE2000 of the surfaces in its light">
        about {finding.severity.toFixed(1)}
      </span>
    </div>
  </div>
  <p class="mt-1 text-small text-ink2 {shown ? '' : 'line-clamp-2'}" title={finding.reason}>
    {finding.reason}
  </p>
  <div class="mt-2 flex gap-2">
    {#if studio.works}
      <button class="button flex-1" onclick={() => studio.adopt(finding)}>Adopt</button>
    {/if}
    <button class="button flex-1" onclick={() => studio.dismiss(finding)}>Dismiss</button>
  </div>
</article>

<style>
  .letter {
    min-width: 18px;
    padding: 0 3px;
    border: 1px dashed currentColor;
    text-align: center;
    font-size: 11px;
    font-weight: 650;
    line-height: 15px;
  }
</style>
