<script lang="ts">
  import type { Cast, Remedy } from '../api/types';
  import { movedRemedy, remedyPut, withoutRemedy } from '../recipe/edit';
  import { nameOf } from '../recipe/kinds';
  import { useStudio } from '../studio/studio.svelte';

  /** The remedies of a cast in the order in which they act: chosen by a click, put elsewhere by dragging or with
   * Alt and the arrows. */
  let { cast }: { cast: Cast } = $props();
  const studio = useStudio();
  const chosen = $derived(studio.remedy);
  let list: HTMLOListElement;

  $effect(() => {
    if (chosen) list.querySelector('[aria-pressed=true]')?.scrollIntoView({ block: 'nearest' });
  });
  /** The one that is being dragged, and the place where it would be put. */
  let dragged = $state<string | null>(null);
  let over = $state<number | null>(null);

  function drop(): void {
    const id = dragged;
    const to = over;
    dragged = over = null;
    if (id !== null && to !== null) studio.changeCast((c) => remedyPut(c, id, to));
  }

  function key(event: KeyboardEvent, { id }: Remedy): void {
    const way = { ArrowUp: -1, ArrowDown: 1 }[event.key] as -1 | 1 | undefined;
    if (event.key === 'Delete') studio.changeCast((c) => withoutRemedy(c, id));
    if (!way) return;
    event.preventDefault();
    if (event.altKey) studio.changeCast((c) => movedRemedy(c, id, way));
    else {
      const row = (event.currentTarget as HTMLElement).closest('li');
      const next = way > 0 ? row?.nextElementSibling : row?.previousElementSibling;
      next?.querySelector('button')?.focus();
    }
  }

  function toggle({ id }: Remedy): void {
    studio.changeCast((c) => ({
      ...c,
      remedies: c.remedies.map((r) => (r.id === id ? { ...r, on: !r.on } : r)),
    }));
  }
</script>

<ol bind:this={list} aria-label="Remedies">
  {#each cast.remedies as remedy, i (remedy.id)}
    <li
      class="group flex items-center"
      class:bg-ink={chosen?.id === remedy.id}
      class:text-inverse={chosen?.id === remedy.id}
      class:border-t-2={over === i}
      draggable="true"
      ondragstart={() => (dragged = remedy.id)}
      ondragover={(event) => {
        if (dragged === null) return;
        event.preventDefault();
        over = i;
      }}
      ondragend={() => (dragged = over = null)}
      ondrop={drop}
    >
      <button
        class="flex min-h-[24px] min-w-0 flex-1 items-center gap-2 px-1.5 text-left"
        aria-pressed={chosen?.id === remedy.id}
        title="Alt and the arrows, or dragging, put it earlier or later"
        onclick={() => (studio.remedyId = remedy.id)}
        onkeydown={(event) => key(event, remedy)}
      >
        <span class="min-w-0 flex-1 truncate" class:line-through={!remedy.on}>{nameOf(remedy)}</span
        >
        <span>{Math.round(remedy.amount * 100)} %</span>
      </button>
      <button
        class="quiet"
        aria-label="{nameOf(remedy)}: {remedy.on ? 'switch off' : 'switch on'}"
        aria-pressed={!remedy.on}
        onclick={() => toggle(remedy)}>{remedy.on ? '●' : '○'}</button
      >
    </li>
  {/each}
</ol>
