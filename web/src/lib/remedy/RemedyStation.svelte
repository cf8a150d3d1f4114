<script lang="ts">
  import { KINDS } from '../../generated/kinds';
  import Station from '../controls/Station.svelte';
  import { withoutRemedy, withRemedy } from '../recipe/edit';
  import { nameOf, newRemedy, type RemedyKind } from '../recipe/kinds';
  import { useStudio } from '../studio/studio.svelte';
  import TouchPanel from '../touch/TouchPanel.svelte';
  import { descriptorOf } from './descriptors';
  import RemedyChooser from './RemedyChooser.svelte';
  import RemedyList from './RemedyList.svelte';
  import RemedySettings from './RemedySettings.svelte';

  const studio = useStudio();
  const remedy = $derived(studio.remedy);
  const cast = $derived(studio.cast);
  const warmth = $derived(studio.castProof?.warmth);
  const lines = $derived(
    cast?.remedies.map(
      (r) => `${nameOf(r).toLowerCase()} ${r.on ? `${Math.round(r.amount * 100)} %` : 'off'}`,
    ) ?? [],
  );
  let choosing = $state(false);

  function add(kind: RemedyKind): void {
    studio.changeCast((c) => withRemedy(c, kind));
    studio.remedyId = studio.cast?.remedies.at(-1)?.id ?? null;
    if (kind === 'wash') studio.tool = 'wash';
    choosing = false;
  }

  /** A glaze of the reference skin's hue, as thick as the proof measured. */
  function warm(): void {
    if (!warmth) return;
    const { target, amount } = warmth;
    const glaze = { ...newRemedy('glaze', target), amount };
    studio.changeCast((c) => ({ ...c, remedies: [...c.remedies, glaze] }));
    studio.remedyId = glaze.id;
  }
</script>

<Station number={3} title="Remedy" name="remedy" {lines}>
  {#snippet aside()}
    {#if warmth && !cast?.remedies.some((r) => r.kind === 'glaze')}
      <button
        class="quiet"
        title="The skin is flatter than its reference: a thin glaze gives it back"
        onclick={warm}>Warmth back {(warmth.amount * 100).toFixed(0)} %</button
      >
    {/if}
    {#if remedy && !choosing}
      {#if KINDS.remedies[remedy.kind].follows}
        <button
          class="quiet aria-pressed:bg-ink aria-pressed:text-inverse"
          title="Say how much of the cast lies at a place"
          aria-pressed={studio.tool === 'touch'}
          onclick={() => studio.toggleTool('touch')}
          >Touch amounts{studio.touching.touches.length
            ? ` (${studio.touching.touches.length})`
            : ''}</button
        >
      {/if}
      <button
        class="quiet aria-pressed:bg-ink aria-pressed:text-inverse"
        aria-pressed={studio.tool === 'turn'}
        title={descriptorOf(remedy).dragHint}
        onclick={() => studio.toggleTool('turn')}>Drag on photo</button
      >
      <button
        class="quiet text-ink2"
        aria-label="Take away {nameOf(remedy).toLowerCase()}"
        onclick={() => studio.changeCast((c) => withoutRemedy(c, remedy.id))}>Take away</button
      >
    {/if}
    {#if cast}
      <button
        class="quiet font-semibold aria-pressed:bg-ink aria-pressed:text-inverse"
        aria-label="Add a remedy"
        aria-pressed={choosing}
        onclick={() => (choosing = !choosing)}>Add</button
      >
    {/if}
  {/snippet}
  {#if cast}
    <div class="remedies grid h-full gap-x-4 gap-y-2">
      <div class="min-h-0 overflow-y-auto"><RemedyList {cast} /></div>
      {#key choosing || remedy?.id}
        <div class="min-h-0 min-w-0 overflow-y-auto">
          {#if choosing}
            <RemedyChooser onchoose={add} onleave={() => (choosing = false)} />
          {:else if studio.tool === 'touch'}
            <TouchPanel />
          {:else if remedy}
            <RemedySettings {remedy} />
          {:else}
            <p class="text-ink2">Nothing is done about this cast. Add a remedy.</p>
          {/if}
        </div>
      {/key}
    </div>
  {:else}
    <p class="text-ink2">The cast is taken off here, as much of it as each place carries.</p>
  {/if}
</Station>

<style>
  .remedies {
    grid-template-columns: 148px minmax(0, 1fr);
  }
  /* In a narrow sheet the list stands above. */
  @container (width < 460px) {
    .remedies {
      grid-template-columns: minmax(0, 1fr);
      grid-template-rows: auto minmax(0, 1fr);
    }
  }
</style>
