<script lang="ts">
  import { KINDS } from '../../generated/kinds';
  import type { Cast } from '../api/types';
  import Dial from '../dial/Dial.svelte';
  import { shareText } from '../proof/share';
  import { changeCast, letterOf } from '../recipe/edit';
  import { nameOf } from '../recipe/kinds';
  import { useStudio } from '../studio/studio.svelte';

  let { cast, index, oncopy }: { cast: Cast; index: number; oncopy: () => void } = $props();
  const studio = useStudio();
  const chosen = $derived(studio.castId === cast.id);
  const proof = $derived(studio.proof?.casts.find((c) => c.id === cast.id));
  const complete = $derived(cast.pairs.filter((p) => p.reference).length);
  let renaming = $state(false);

  const summary = $derived.by(() => {
    if (!cast.on) return 'Switched off';
    // Without a pair those that follow it do nothing.
    const acting = cast.remedies.filter(
      (r) => r.on && (complete || !KINDS.remedies[r.kind].follows),
    );
    if (!acting.length && !complete) return 'Needs a pair of samples';
    if (!cast.mask.parts.length) return 'Needs a mask';
    const told = complete
      ? [`${complete} ${complete === 1 ? 'pair' : 'pairs'}`]
      : acting.map(nameOf);
    if (cast.mask.parts.every((part) => part.kind === 'whole')) told.push('whole photo');
    else if (proof) told.push(`${shareText(proof.area)} masked`);
    return told.join(', ');
  });

  function edit(change: (c: Cast) => Cast): void {
    studio.commit(changeCast(studio.recipe, cast.id, change));
  }
</script>

<article
  class="relative border {chosen ? 'border-ink bg-ink text-inverse' : 'border-line bg-raised'}"
  style="--dial-ground: {chosen ? 'var(--ink)' : 'var(--raised)'}"
  class:opacity-70={!cast.on}
>
  <button
    class="flex w-full items-center gap-2.5 p-2.5 text-left"
    aria-pressed={chosen}
    title="Alt and the arrows, or dragging, put it earlier or later"
    onclick={() => studio.select(cast.id)}
    ondblclick={() => (renaming = true)}
  >
    <Dial before={proof?.offset_before ?? null} after={proof?.offset_after ?? null} />
    <span class="min-w-0 flex-1">
      <span class="flex items-center gap-1.5">
        <span class="letter">{letterOf(index)}</span>
        <span class="truncate font-semibold">{studio.nameOf(cast)}</span>
      </span>
      <span class="block truncate text-small {chosen ? 'text-inverse2' : 'text-ink2'}"
        >{summary}</span
      >
      {#if proof?.before != null && proof.after != null}
        <span class="block text-title leading-6 font-semibold" title="ΔE2000 to the reference">
          {proof.before.toFixed(1)} → {proof.after.toFixed(1)}
        </span>
      {/if}
      {#if proof?.skin_before != null && proof.skin_after != null}
        <span class="block text-small" title="Degrees off the skin line, before and now">
          Skin {Math.abs(proof.skin_before).toFixed(0)}° → {Math.abs(proof.skin_after).toFixed(0)}°
          off line
        </span>
      {/if}
    </span>
  </button>
  {#if renaming}
    <!-- svelte-ignore a11y_autofocus -->
    <input
      class="field absolute top-1.5 right-1.5 left-[64px]"
      aria-label="Name of cast {letterOf(index)}"
      value={cast.name || studio.nameOf(cast)}
      maxlength="120"
      autofocus
      onkeydown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key === 'Escape') renaming = false;
      }}
      onblur={(event) => {
        const name = event.currentTarget.value.trim();
        if (renaming && name !== cast.name) edit((c) => ({ ...c, name }));
        renaming = false;
      }}
    />
  {/if}
  {#if chosen}
    <div
      class:flex-wrap={studio.recipe.look}
      class="flex justify-between border-t border-inverse2/40 px-1 py-0.5 text-small whitespace-nowrap"
    >
      <button class="quiet" onclick={() => edit((c) => ({ ...c, on: !c.on }))}>
        {cast.on ? 'Switch off' : 'Switch on'}
      </button>
      <button class="quiet" onclick={() => (renaming = true)}>Rename</button>
      {#if studio.recipe.look}
        <button
          class="quiet"
          title={cast.after_look
            ? 'Act on the photo before its look'
            : 'Act on the photo with its look'}
          onclick={() => edit((c) => ({ ...c, after_look: !c.after_look }))}
          >{cast.after_look ? '↑ look' : '↓ look'}</button
        >
      {/if}
      {#if studio.works && studio.opened.neighbours.length > 1}
        <button class="quiet" onclick={oncopy}>Copy</button>
      {/if}
      <button class="quiet" onclick={() => studio.removeCast(cast.id)}>Delete</button>
    </div>
  {/if}
</article>

<style>
  .letter {
    min-width: 18px;
    padding: 0 3px;
    border: 1px solid currentColor;
    text-align: center;
    font-size: 11px;
    font-weight: 650;
    line-height: 15px;
  }
</style>
