<script lang="ts">
  import { capital } from '../recipe/kinds';
  import { useStudio } from '../studio/studio.svelte';
  import { questions } from './questions.svelte';

  /** A few readings of the light, each treated, whole and close up: this, this, or none. */
  const studio = useStudio();
  const { asking, finder } = studio;
  const count = $derived(finder.choices.length);
  const others = $derived(questions.photos.filter((id) => id !== studio.photo.id).length);
  let held = $state(false);

  function key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const digit = Number(event.key);
    const pressed = event.key.toLowerCase();
    if (digit >= 1 && digit <= asking.answers.length) asking.at = digit - 1;
    else if (pressed === 'enter' && !(event.target instanceof HTMLButtonElement))
      void asking.take();
    else if (pressed === '0') void asking.none();
    else if (pressed === 'escape') asking.leave();
    else if (pressed === 'arrowright')
      asking.at = Math.min(asking.at + 1, asking.answers.length - 1);
    else if (pressed === 'arrowleft') asking.at = Math.max(asking.at - 1, 0);
    else if (pressed === ' ') held = true;
    else return;
    event.preventDefault();
  }
</script>

<svelte:window
  onkeydown={key}
  onkeyup={(event) => event.key === ' ' && (held = false)}
  onblur={() => (held = false)}
/>

<section class="flex h-full flex-col bg-surround px-7 py-4 text-white" aria-label="A question">
  <header class="mb-3 flex items-baseline gap-4">
    <h2 class="text-[20px] font-bold">Which picture is right?</h2>
    <p>
      {count === 1 ? 'One reading' : `${count} readings`} of the light, each taken off wholly; the close-ups
      show where most would change. Space holds up the photo as it came.
    </p>
  </header>
  <div
    class="grid min-h-0 flex-1 gap-3 {count > 2 ? 'grid-rows-2' : 'grid-rows-1'} {count > 1
      ? 'grid-cols-2'
      : 'grid-cols-1'}"
  >
    {#each finder.choices as choice, i (choice.id)}
      {@const answer = asking.answers[i]}
      {@const shown = held && answer ? asking.untouched : answer}
      <button
        class="answer"
        class:tall={count <= 2}
        aria-pressed={asking.at === i}
        aria-label="{i + 1}: {choice.says}"
        onclick={() => (asking.at = i)}
        ondblclick={() => void asking.take(i)}
      >
        {#if shown}
          <span class="picture"><img src={shown.whole} alt="" draggable="false" /></span>
          <span class="beside">
            <img src={shown.close} alt="" draggable="false" />
            <span class="mt-2 flex items-center gap-2 text-left">
              <span class="number">{i + 1}</span>
              <span class="font-semibold">{capital(choice.says)}</span>
            </span>
          </span>
        {:else}
          <span class="m-auto">Being made</span>
        {/if}
      </button>
    {/each}
  </div>
  <footer class="mt-3 flex items-center gap-3">
    <button class="take" disabled={!asking.answers[asking.at]} onclick={() => void asking.take()}
      >Take {asking.at + 1}</button
    >
    <button class="none" onclick={() => void asking.none()}>None of these</button>
    <button class="none" onclick={() => asking.leave()}>Not now</button>
    <span class="flex-1"></span>
    <p>
      {count > 1 ? `1–${count} choose, Enter takes it, ` : 'Enter takes it, '}0 is none, Esc asks
      later.
      {others === 0 ? '' : others === 1 ? '1 more photo asks.' : `${others} more photos ask.`}
    </p>
  </footer>
</section>

<style>
  .answer {
    display: flex;
    min-width: 0;
    min-height: 0;
    gap: 8px;
    padding: 6px;
    outline: 3px solid transparent;
    outline-offset: -3px;
  }
  .answer[aria-pressed='true'] {
    outline-color: #161616;
  }
  .answer:focus-visible {
    outline-color: #f2f2f2;
  }
  .picture {
    display: flex;
    flex: 2 1 0;
    min-width: 0;
    min-height: 0;
    height: 100%;
  }
  .picture img,
  .beside img {
    width: 100%;
    height: 100%;
    min-height: 0;
    object-fit: contain;
    object-position: left top;
  }
  .beside {
    display: flex;
    flex: 1 1 0;
    flex-direction: column;
    min-width: 0;
    min-height: 0;
  }
  .beside img {
    height: auto;
    flex: 0 1 auto;
  }
  /* Few answers leave room to stand over each other. */
  .tall {
    flex-direction: column;
  }
  .tall .picture {
    height: auto;
    flex: 3 1 0;
  }
  .tall .beside {
    flex: 2 1 0;
    flex-direction: row;
    gap: 12px;
  }
  .tall .beside img {
    width: auto;
    height: 100%;
  }
  .number {
    width: 20px;
    height: 20px;
    flex-shrink: 0;
    background: #161616;
    text-align: center;
    font-size: 11px;
    font-weight: 700;
    line-height: 20px;
  }
  .take {
    padding: 6px 14px;
    background: #161616;
  }
  .take:disabled {
    opacity: 0.6;
  }
  .none {
    padding: 6px 4px;
    font-weight: 600;
  }
</style>
