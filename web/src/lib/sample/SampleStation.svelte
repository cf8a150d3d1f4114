<script lang="ts">
  import NumberField from '../controls/NumberField.svelte';
  import { withKey } from '../help/commands';
  import { numberOf, waitingPair, withoutSample, type Whose } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import Station from '../controls/Station.svelte';
  import SameSkin from '../people/SameSkin.svelte';
  import PairRow from './PairRow.svelte';
  import ReferenceSources from './ReferenceSources.svelte';
  import SampleDetails from './SampleDetails.svelte';

  const studio = useStudio();
  const cast = $derived(studio.cast);
  const proof = $derived(studio.castProof);

  const prompt = $derived.by(() => {
    if (studio.tool === 'tainted')
      return 'Click a place whose colour does not belong there. Shift averages.';
    if (studio.tool === 'keep') return 'Click a colour that must not change.';
    if (studio.tool === 'reference' || (cast && waitingPair(cast)))
      return 'Click what it should look like, or make it neutral.';
    return '';
  });

  const lines = $derived.by(() => {
    if (!cast) return ['nothing sampled'];
    const { pairs, guards } = cast;
    const told = [`${pairs.length} ${pairs.length === 1 ? 'pair' : 'pairs'}`];
    if (guards.length) told.push(`${guards.length} kept`);
    if (proof?.before != null)
      told.push(
        `${proof.before.toFixed(1)}${proof.after == null ? '' : ` → ${proof.after.toFixed(1)}`}`,
      );
    return told;
  });

  const tools: ['tainted' | 'reference' | 'keep', string, string][] = [
    ['tainted', 'Tainted', 'Sample a tainted place'],
    ['reference', 'Reference', 'Sample what it should be'],
    ['keep', 'Keep', 'Sample a colour that must not change'],
  ];
</script>

<Station number={1} title="Sample" name="sample" {lines}>
  {#snippet aside()}
    <label class="flex items-center gap-1.5 text-ink2" title="Radius of a sample, photo pixels">
      Radius
      <NumberField
        label="Sample radius"
        value={studio.probe.radius * studio.longEdge}
        least={0.5}
        most={Math.min(200, 0.05 * studio.longEdge)}
        step={1}
        unit=" px"
        onchange={(pixels) => (studio.probe.radius = pixels / studio.longEdge)}
      />
    </label>
  {/snippet}
  <div class="tools flex flex-wrap gap-1">
    {#each tools as [tool, label, title] (tool)}
      <button
        class="button"
        title={withKey(title, tool)}
        aria-pressed={studio.tool === tool}
        disabled={tool !== 'tainted' && !cast}
        onclick={() => studio.toggleTool(tool)}>{label}</button
      >
    {/each}
    <button
      class="button"
      title={withKey('The same lightness without colour', 'neutral')}
      disabled={!cast?.pairs.length}
      onclick={() => studio.sampler.makeNeutral()}>Neutral</button
    >
    <ReferenceSources />
  </div>
  {#if prompt}<p class="mt-1.5 text-ink2" aria-live="polite">{prompt}</p>{/if}
  <SameSkin />
  {#if cast}
    <ul class="mt-1.5 flex flex-col">
      {#each cast.pairs as pair (pair.id)}
        <PairRow {cast} {pair} shown={proof?.pairs.find((p) => p.id === pair.id)} />
      {/each}
      {#each cast.guards as guard (guard.id)}
        {@const shown = proof?.guards.find((g) => g.id === guard.id)}
        {@const whose: Whose = { id: guard.id, role: 'keep' }}
        {@const number = numberOf(cast, guard.sample)}
        <li class="flex min-h-[30px] items-center gap-1.5">
          <span class="tag thick">{number}</span>
          <SampleDetails
            {whose}
            sample={guard.sample}
            title="Kept colour {number}"
            colours={[['Must stay', shown?.colour]]}
            shown={[shown?.colour]}
          />
          <span class="text-ink2">must stay</span>
          {#if shown && !shown.held}
            <span class="notched ml-auto bg-attention pr-2 text-inverse" title="ΔE2000">
              moved {shown.moved.toFixed(1)}
            </span>
          {:else}
            <span class="ml-auto" title="ΔE2000 moved">
              {#if shown}held {shown.moved.toFixed(1)}{/if}
            </span>
          {/if}
          <button
            class="quiet"
            aria-label="Remove kept colour {number}"
            onclick={() => studio.changeCast((c) => withoutSample(c, whose))}>×</button
          >
        </li>
      {/each}
    </ul>
  {/if}
</Station>

<style>
  .tools :global(.button) {
    padding-inline: 6px;
  }
</style>
