<script lang="ts">
  import type { Cast } from '../api/types';
  import { swatch } from '../instruments/swatch';
  import NumberField from '../controls/NumberField.svelte';
  import { numberOf, waitingPair } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import type { Tool } from '../studio/tools';
  import Station from './Station.svelte';
  import TypedReference from './TypedReference.svelte';

  const studio = useStudio();
  const cast = $derived(studio.cast);
  const proof = $derived(studio.castProof);

  const MISMATCH = 10; // L* between a sample and its reference that is worth a word
  const prompt = $derived.by(() => {
    if (studio.tool === 'tainted') return 'Click a place whose colour does not belong there.';
    if (studio.tool === 'keep') return 'Click a colour that must not change.';
    if (studio.tool === 'reference' || (cast && waitingPair(cast)))
      return 'Click what it should look like, or make it neutral.';
    return '';
  });

  const tools: [Tool, string, string][] = [
    ['tainted', 'Tainted', 'Sample a tainted place (T)'],
    ['reference', 'Reference', 'Sample what it should be (R)'],
    ['keep', 'Keep', 'Sample a colour that must not change (K)'],
  ];

  function remove(change: (cast: Cast) => Cast): void {
    studio.changeCast(change);
  }
</script>

<Station number={1} title="Sample">
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
  <div class="tools flex flex-wrap gap-[5px]">
    {#each tools as [tool, label, title] (tool)}
      <button
        class="button"
        {title}
        aria-pressed={studio.tool === tool}
        disabled={tool !== 'tainted' && !cast}
        onclick={() => studio.toggleTool(tool)}>{label}</button
      >
    {/each}
    <button
      class="button"
      title="The same lightness without colour (N)"
      disabled={!cast?.pairs.length}
      onclick={() => studio.sampler.makeNeutral()}>Neutral</button
    >
  </div>
  {#if prompt}<p class="mt-1.5 text-ink2" aria-live="polite">{prompt}</p>{/if}
  {#if cast}
    <ul class="mt-1.5 flex flex-col">
      {#each cast.pairs as pair (pair.id)}
        {@const shown = proof?.pairs.find((p) => p.id === pair.id)}
        <li class="flex min-h-[30px] items-center gap-1.5">
          <span class="tag dark">{numberOf(cast, pair.tainted)}</span>
          <span class="patch split" title="Before and now">
            <span style:background={swatch(shown?.is_before)}></span>
            <span style:background={swatch(shown?.is_now)}></span>
          </span>
          {#if pair.reference}
            <span class="as text-ink2">as</span>
            <TypedReference {pair} {shown} />
            {#if pair.reference_kind === 'neutral'}
              <span class="text-ink2">neutral</span>
            {:else if !pair.reference.at}
              <span class="text-ink2" title="Made: as found, or typed">made</span>
            {:else}
              <span class="tag">{numberOf(cast, pair.reference)}</span>
            {/if}
            <span class="ml-auto whitespace-nowrap" title="ΔE2000 to the reference">
              {#if shown?.before != null && shown.after != null}
                {shown.before.toFixed(1)} → {shown.after.toFixed(1)}
              {/if}
            </span>
          {:else}
            <span class="ml-auto text-ink2">needs a reference</span>
          {/if}
          <button
            class="quiet"
            aria-label="Remove pair {numberOf(cast, pair.tainted)}"
            onclick={() =>
              remove((c) => ({ ...c, pairs: c.pairs.filter((p) => p.id !== pair.id) }))}>×</button
          >
        </li>
        {#if shown?.lightness_gap != null && Math.abs(shown.lightness_gap) > MISMATCH}
          <li class="text-small text-ink2">
            {Math.abs(shown.lightness_gap).toFixed(0)} L*
            {shown.lightness_gap > 0 ? 'lighter' : 'darker'} than the sample: levelled to it
          </li>
        {/if}
        {#if shown?.other_way}
          <li class="notched w-fit bg-attention py-0.5 pr-2 text-small text-inverse">
            Points another way: treated as a second pass
          </li>
        {/if}
      {/each}
      {#each cast.guards as guard (guard.id)}
        {@const shown = proof?.guards.find((g) => g.id === guard.id)}
        <li class="flex min-h-[30px] items-center gap-1.5">
          <span class="tag thick">{numberOf(cast, guard.sample)}</span>
          <span class="patch" style:background={swatch(shown?.colour)}></span>
          <span class="text-ink2">must stay</span>
          <span class="ml-auto" title="ΔE2000 moved">
            {#if shown}{shown.moved < 1 ? 'held' : 'moved'} {shown.moved.toFixed(1)}{/if}
          </span>
          <button
            class="quiet"
            aria-label="Remove kept colour {numberOf(cast, guard.sample)}"
            onclick={() =>
              remove((c) => ({ ...c, guards: c.guards.filter((g) => g.id !== guard.id) }))}
            >×</button
          >
        </li>
      {/each}
    </ul>
  {/if}
</Station>

<style>
  .tools .button {
    padding-inline: 7px;
  }
  .tag {
    min-width: 19px;
    border: 1px solid var(--ink);
    text-align: center;
    font-size: 11px;
    font-weight: 650;
    line-height: 17px;
  }
  .tag.dark {
    background: var(--ink);
    color: var(--inverse);
  }
  .tag.thick {
    border-width: 2px;
    line-height: 15px;
  }
  /* A narrow window leaves room for the colours and the figures, not for the words. */
  @media (width < 1180px) {
    .as {
      display: none;
    }
  }
  .patch.split > span {
    flex: 1;
  }
</style>
