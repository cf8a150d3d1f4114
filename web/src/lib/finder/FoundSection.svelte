<script lang="ts">
  import { withKey } from '../help/commands';
  import { same } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import FindingCard from './FindingCard.svelte';

  const studio = useStudio();
  const finder = studio.finder;
  const survey = $derived(finder.survey);
  const way = $derived(survey?.said.direction);

  const isChosen = (shift: readonly number[]): boolean => same(shift, way);
</script>

{#if survey}
  <section class="flex flex-col gap-2" aria-label="Found">
    <header class="mt-1 flex items-baseline justify-between">
      <h2 class="font-semibold">Found</h2>
      {#if survey.directions.length}<span class="ml-2 flex-1 text-ink2">possible: towards</span
        >{/if}
      <button
        class="quiet aria-pressed:bg-ink aria-pressed:text-inverse"
        aria-pressed={studio.show === 'map'}
        title={withKey(
          'The photo without its colours, and the colour that light adds to it',
          'map',
        )}
        onclick={() => studio.toggleMap()}>map</button
      >
    </header>
    {#if survey.directions.length}
      <div class="flex flex-wrap gap-1.5" role="group" aria-label="Possible directions">
        {#each survey.directions as direction (direction.towards)}
          <button
            class="button px-1.5"
            aria-pressed={isChosen(direction.shift)}
            title="Possible: light turns towards {direction.towards}. Look for that alone."
            onclick={() =>
              studio.tell(isChosen(direction.shift) ? {} : { direction: direction.shift })}
          >
            <span
              class="h-2.5 w-2.5"
              style:background="lab(62% {direction.cast[0] * 2.5}
              {direction.cast[1] * 2.5})"
            ></span>
            {direction.towards}
          </button>
        {/each}
      </div>
    {/if}
    {#if finder.choices.length}
      <div class="border border-ink p-2.5" role="group" aria-label="A question">
        <p class="font-semibold">Which picture is right?</p>
        <p class="mt-0.5 text-small text-ink2">
          {finder.choices.length === 1
            ? 'One reading of the light is possible here.'
            : `${finder.choices.length} readings of the light are about as likely.`} You see it at once;
          from numbers nobody can tell.
        </p>
        <button class="button mt-2 w-full" onclick={() => studio.asking.start()}
          >Show {finder.choices.length === 1 ? 'it' : 'them'} treated</button
        >
      </div>
    {/if}
    {#each finder.findings as finding, index (finding.id)}
      <FindingCard {finding} {index} />
    {:else}
      <p class="text-ink2">
        {finder.led
          ? 'Nothing in this photo bears that out.'
          : `Nothing ${studio.recipe.casts.length ? 'more ' : ''}was found. That does not mean that nothing is there: show a place that looks wrong to you.`}
      </p>
    {/each}
    {#if finder.known.length}
      <p class="text-ink2">
        {finder.known.length === 1 ? '1 place is' : `${finder.known.length} places are`} known as an object
        from {finder.known[0]?.[1]}.
        <button class="quiet underline" onclick={() => (finder.anyway = !finder.anyway)}
          >{finder.anyway ? 'Leave out' : 'Show anyway'}</button
        >
      </p>
    {/if}
    <div class="flex flex-wrap gap-1.5" role="group" aria-label="What you know">
      <button
        class="button px-2"
        aria-pressed={studio.tool === 'ask'}
        title={withKey('Click a place on the photo that looks tainted', 'ask')}
        onclick={() => studio.toggleTool('ask')}>Show a taint</button
      >
      <button
        class="button px-2"
        aria-pressed={studio.tool === 'ask-neutral'}
        title="Click a tainted place that should be neutral grey"
        onclick={() => studio.toggleTool('ask-neutral')}>Show a grey</button
      >
      {#if studio.cast?.pairs.some((p) => p.reference)}
        <button
          class="button px-2"
          aria-pressed={survey.said.pair_of === studio.castId}
          title="Find where else the selected cast falls"
          onclick={() =>
            studio.tell(survey.said.pair_of === studio.castId ? {} : { pair_of: studio.castId })}
          >As in {studio.letter}</button
        >
      {/if}
      {#if finder.led}
        <button class="quiet underline" onclick={() => studio.tell({})}>Forget</button>
      {/if}
    </div>
  </section>
{/if}
