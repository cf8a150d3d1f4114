<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { call, reasonOf } from '../api/client';
  import type { Job, Shoot } from '../api/types';
  import { pointerRests } from '../controls/resting';
  import { doing, finished } from '../jobs/following.svelte';
  import { newId } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';

  /** Carries the selected cast, its mask, or all casts over to other photos of the shoot. */
  let { open = $bindable() }: { open: boolean } = $props();
  const studio = useStudio();
  type What = 'cast' | 'mask' | 'all';
  const choices = $derived<[What, string][]>([
    ['cast', `Cast ${studio.letter}`],
    ['mask', `The mask of ${studio.letter} alone`],
    ['all', `All ${studio.recipe.casts.length} casts`],
  ]);
  const offered = $derived(studio.recipe.casts.length > 1 ? choices : choices.slice(0, 2));
  let what = $state<What>('cast');
  let photos = $state.raw<Shoot['photos']>([]);
  let chosen = $state<number[]>([]);
  let told = $state('');
  let busy = $state(false);
  /** Strokes of washes are of places of this photo. */
  let withStrokes = $state(false);
  const washed = $derived(
    studio.recipe.casts.some(
      (c) =>
        (what === 'all' || c.id === studio.castId) && c.remedies.some((r) => r.kind === 'wash'),
    ),
  );
  /** Photos that share the cast already. */
  let shared = $state.raw<string[]>([]);

  $effect(() => {
    if (open) void load();
  });

  async function load(): Promise<void> {
    told = '';
    chosen = [];
    try {
      const shoot = await call('get', '/api/shoots/{shoot_id}', {
        path: { shoot_id: studio.opened.shoot_id },
      });
      photos = shoot.photos.filter((p) => p.id !== studio.photo.id);
      await loadLinks();
    } catch (error) {
      told = `${reasonOf(error)}.`;
    }
  }

  async function loadLinks(): Promise<void> {
    await studio.saver.settled();
    if (!studio.castId) return;
    const question = { path: { photo_id: studio.photo.id }, body: { cast: studio.castId } };
    const { photos } = await call('post', '/api/photos/{photo_id}/links', question);
    await pointerRests();
    shared = photos;
  }

  /** Do something with what is saved, and say what came of it. */
  async function attempt(work: () => Promise<string>): Promise<void> {
    busy = true;
    try {
      await studio.saver.settled();
      told = await work();
      await loadLinks();
    } catch (error) {
      told = `${reasonOf(error)}.`;
    } finally {
      busy = false;
    }
  }

  const inWords = (count: number): string => `${count} ${count === 1 ? 'photo' : 'photos'}`;

  function tell(job: Job): void {
    if (!job.over) told = `${doing(job)}: ${Math.round(100 * job.share)} %`;
  }

  const carryOver = () =>
    attempt(async () => {
      const question = { path: { photo_id: studio.photo.id }, body: { cast: studio.castId ?? '' } };
      const begun = call('post', '/api/photos/{photo_id}/carry-over', question);
      const { changed } = await finished(begun, tell);
      return `${inWords(changed)} changed. Undo takes it back there.`;
    });

  /** From now on a cast of its own. */
  const breakLink = () =>
    attempt(async () => {
      const id = newId();
      studio.changeCast((c) => ({ ...c, id, link: null }));
      studio.select(id);
      await studio.saver.settled();
      return 'The link is broken.';
    });

  const copy = () =>
    attempt(async () => {
      const casts = what === 'all' || !studio.castId ? null : [studio.castId];
      const body = { casts, mask_only: what === 'mask', strokes: withStrokes, to: chosen };
      const path = { photo_id: studio.photo.id };
      await finished(call('post', '/api/photos/{photo_id}/copy', { path, body }), tell);
      return `Copied to ${inWords(chosen.length)}. Undo takes it back there.`;
    });

  function toggle(id: number): void {
    chosen = chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id];
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="fixed top-[8%] left-1/2 z-50 flex max-h-[84%] w-[620px] -translate-x-1/2 flex-col border border-ink bg-raised p-5"
    >
      <Dialog.Title class="text-title font-semibold">Copy to other photos</Dialog.Title>
      <Dialog.Description class="mb-3 text-ink2">
        Colour keys are calculated anew from each photo; shapes keep their place; samples come along
        as colours.
      </Dialog.Description>
      {#if shared.length}
        <div class="mb-3 flex items-center gap-2 border-y border-line py-2">
          <span class="min-w-0 flex-1">
            Shared with {shared.slice(0, 4).join(', ')}{shared.length > 4
              ? ` and ${shared.length - 4} more`
              : ''}. What was touched up there stays.
          </span>
          <button class="button" disabled={busy} onclick={carryOver}>Carry changes over</button>
          <button class="button" disabled={busy} onclick={breakLink}>Break the link</button>
        </div>
      {/if}
      <div class="mb-3 flex gap-4" role="radiogroup" aria-label="What is copied">
        {#each offered as [value, label] (value)}
          <label class="flex items-center gap-1.5">
            <input type="radio" class="accent-[var(--ink)]" {value} bind:group={what} />
            {label}
          </label>
        {/each}
      </div>
      {#if washed && what !== 'mask'}
        <label class="mb-3 flex items-center gap-1.5">
          <input type="checkbox" class="h-4 w-4 accent-[var(--ink)]" bind:checked={withStrokes} />
          The strokes of its washes too, at the same places
        </label>
      {/if}
      <div class="grid min-h-0 flex-1 grid-cols-3 gap-2 overflow-y-auto">
        {#each photos as photo (photo.id)}
          <label
            class="flex flex-col border {chosen.includes(photo.id) ? 'border-ink' : 'border-line'}"
          >
            <img
              class="aspect-[3/2] w-full bg-surround object-contain p-1"
              src="/api/photos/{photo.id}/thumbnail?revision={photo.revision}"
              alt=""
              loading="lazy"
            />
            <span class="flex items-center gap-1.5 p-1.5">
              <input
                type="checkbox"
                class="h-4 w-4 shrink-0 accent-[var(--ink)]"
                checked={chosen.includes(photo.id)}
                onchange={() => toggle(photo.id)}
              />
              <span class="truncate">{photo.title}</span>
            </span>
          </label>
        {/each}
      </div>
      <div class="mt-4 flex items-center gap-2">
        <span class="flex-1 text-ink2" role="status">{told}</span>
        <button class="button tall" onclick={() => (chosen = photos.map((p) => p.id))}
          >Choose all</button
        >
        <Dialog.Close class="button tall">Close</Dialog.Close>
        <button class="button strong tall" disabled={!chosen.length || busy} onclick={copy}
          >Copy</button
        >
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
