<script lang="ts">
  import type { Cast, Pair, PairProof } from '../api/types';
  import { changePair, numberOf, withoutPair } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import SampleDetails from './SampleDetails.svelte';

  /** A pair: what its sample is, should be and is now, and what is to be known about it. */
  interface Props {
    cast: Cast;
    pair: Pair;
    shown: PairProof | undefined;
  }
  let { cast, pair, shown }: Props = $props();
  const studio = useStudio();

  const MISMATCH = 10; // L* between a sample and its reference that is worth a word
  const number = $derived(numberOf(cast, pair.tainted));
  const origins = { made: 'made', neutral: 'neutral', original: 'as it came' } as const;
  const origin = $derived.by(() => {
    const reference = pair.reference;
    if (!reference || reference.at) return '';
    const { origin } = reference;
    return origin === 'library' || origin === 'photo' ? reference.name : origins[origin];
  });
  const gap = $derived(shown?.lightness_gap ?? 0);

  const mismatch = $derived(Math.abs(gap) > MISMATCH);

  function change(to: Partial<Pair>): void {
    studio.changeCast((c) => changePair(c, pair.id, (p) => ({ ...p, ...to })));
  }
</script>

<li class="flex min-h-[30px] items-center gap-1.5" class:struck={shown?.outvoted}>
  <span class="tag dark">{number}</span>
  <SampleDetails
    whose={{ id: pair.id, role: 'tainted' }}
    sample={pair.tainted}
    title="Sample {number}, before and now"
    colours={[
      ['Is', shown?.is_before],
      ['Should be', shown?.should_be],
      ['Is now', shown?.is_now],
    ]}
    shown={[shown?.is_before, shown?.is_now]}
  />
  {#if pair.reference}
    <span class="as text-ink2">as</span>
    <SampleDetails
      whose={{ id: pair.id, role: 'reference' }}
      sample={pair.reference}
      title="Reference of sample {number}"
      colours={[
        ['As sampled', shown?.reference],
        ['At the light of the sample', shown?.should_be],
      ]}
      shown={[shown?.should_be]}
    />
    {#if pair.reference.at}
      <span class="tag">{numberOf(cast, pair.reference)}</span>
    {:else}
      <span class="min-w-0 truncate text-ink2" title={origin}>{origin}</span>
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
    aria-label="Remove pair {number}"
    onclick={() => studio.changeCast((c) => withoutPair(c, pair.id))}>×</button
  >
</li>
{#if mismatch || shown?.residual != null}
  <li class="flex min-h-[24px] items-center gap-2 text-small text-ink2">
    {#if mismatch}{Math.abs(gap).toFixed(0)} L* {gap > 0 ? 'lighter' : 'darker'}{/if}
    {#if shown?.residual != null}<span>match leaves {shown.residual.toFixed(1)}</span>{/if}
    {#if mismatch}
      <button
        class="quiet ml-auto border border-line px-1.5 aria-pressed:bg-ink aria-pressed:text-inverse"
        aria-pressed={pair.level}
        title="Bring the reference to the sample's lightness along its own hue"
        onclick={() => change({ level: !pair.level })}>Level</button
      >
    {/if}
  </li>
{/if}
{#if shown?.outvoted}
  <li class="notice notched bg-attention text-inverse">
    Contradicts the other pairs: left out
    <button class="quiet ml-auto underline" onclick={() => change({ second: true })}>Use it</button>
  </li>
{:else if shown?.other_way}
  <li class="notice notched bg-attention text-inverse">
    Points another way: a second pass
    {#if pair.second}
      <button class="quiet ml-auto underline" onclick={() => change({ second: false })}>
        Leave out
      </button>
    {/if}
  </li>
{/if}

<style>
  .notice {
    display: flex;
    align-items: center;
    min-height: 24px;
    padding-right: 4px;
    font-size: 12px;
  }
  .struck {
    opacity: 0.65;
  }
  /* A narrow window leaves room for the colours and the figures, not for the words. */
  @media (width < 1180px) {
    .as {
      display: none;
    }
  }
</style>
