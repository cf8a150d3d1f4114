<script lang="ts">
  import type { Snap } from '../api/types';
  import { isSnap } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';

  /** An object found from a loop or a scribble, and told better by further ones. */
  let { part }: { part: Snap } = $props();
  const studio = useStudio();
  const pens = [
    ['this', 'Also this'],
    ['other', 'Not this'],
  ] as const;
  const said = $derived(part.this.length + part.other.length);
  const forgettable = $derived(said > (part.loop.length ? 0 : 1));

  /** The last thing said; the loop, or the first scribble without one, stays. */
  function forget(): void {
    studio.masking.changePart((p) => {
      if (!isSnap(p)) return p;
      return p.other.length
        ? { ...p, other: p.other.slice(0, -1) }
        : { ...p, this: p.this.slice(0, -1) };
    });
  }
</script>

<div class="flex flex-wrap items-center gap-1.5">
  {#each pens as [tool, label] (tool)}
    <button
      class="button"
      aria-pressed={studio.tool === tool}
      onclick={() => studio.toggleTool(tool)}>{label}</button
    >
  {/each}
  <button class="button" disabled={!forgettable} onclick={forget}>Forget the last</button>
</div>
<p class="mt-2 text-ink2">
  {part.loop.length ? 'Found inside the loop' : 'Found round the scribble'}{said
    ? `, with ${said} ${said === 1 ? 'scribble' : 'scribbles'}`
    : ''}. Where it took too much or too little, scribble over it.
</p>
