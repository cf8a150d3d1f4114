<script lang="ts">
  import { KINDS } from '../../generated/kinds';
  import NumberField from '../controls/NumberField.svelte';
  import WordChoice from '../controls/WordChoice.svelte';
  import { useStudio } from '../studio/studio.svelte';

  /** The amounts that were set by hand, while the tool for it is taken up. */
  const studio = useStudio();
  const { touching } = studio;
</script>

<div class="mb-1.5 flex items-center gap-2">
  <WordChoice
    label="What the photo shows meanwhile"
    value={touching.showsField ? 'taken' : 'result'}
    words={[
      ['taken', 'what is taken off'],
      ['result', 'result'],
    ]}
    onchange={(shown) => (touching.showsField = shown !== 'result')}
  />
  <span class="flex-1"></span>
  <button class="button" onclick={() => (studio.tool = 'look')}>Done</button>
</div>
{#if touching.touches.length}
  <ul class="flex flex-col gap-1" aria-label="Touches">
    {#each touching.touches as touch, i (touch.id)}
      <li class="flex items-center gap-2">
        <span class="w-4 text-ink2">{i + 1}</span>
        <NumberField
          label="Touch {i + 1}"
          value={touch.amount * 100}
          least={0}
          most={KINDS.most_touched * 100}
          step={1}
          unit=" %"
          width={64}
          onchange={(value) => touching.set(touch.id, value / 100)}
        />
        <span class="flex-1 text-ink2">of the cast</span>
        <button
          class="quiet"
          aria-label="Remove touch {i + 1}"
          title="Remove this touch"
          onclick={() => touching.remove(touch.id)}>Remove</button
        >
      </li>
    {/each}
  </ul>
{:else}
  <p class="text-ink2">
    Press on the photo where too much or too little is taken off, and drag sideways. Near places of
    the same material follow.
  </p>
{/if}
