<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { onMount } from 'svelte';
  import { SvelteSet } from 'svelte/reactivity';
  import { call, reasonOf } from '../api/client';
  import type { Cast, Photo } from '../api/types';
  import SliderRow from '../controls/SliderRow.svelte';
  import { letterOf } from '../recipe/edit';
  import type { ChosenWork } from './chosen-work.svelte';
  import { KINDS, type Sheet } from './sheet.svelte';

  /** How the chosen photos are to be treated; what comes of it is looked at before anything is saved. */
  interface Props {
    sheet: Sheet;
    work: ChosenWork;
    kind: 'adopt' | 'carry' | 'follow';
    /** The photo whose casts are carried over. */
    source: Photo | undefined;
    onclose: () => void;
  }
  let { sheet, work, kind, source, onclose }: Props = $props();
  // The dialog is made anew each time.
  // svelte-ignore state_referenced_locally
  let shapes = $state<'carry' | 'follow'>(kind === 'follow' ? 'follow' : 'carry');
  let least = $state(50);
  let amount = $state(100);
  let casts = $state.raw<Cast[]>([]);
  let trouble = $state('');
  let busy = $state(false);
  const without = new SvelteSet<string>();
  const causes = new SvelteSet<string>();
  const photos = $derived(sheet.selection.list);
  const title = $derived(
    kind === 'adopt' ? 'Treat what was found' : `Treat as ${source?.title ?? ''}`,
  );

  onMount(async () => {
    if (kind === 'adopt' || !source) return;
    try {
      const path = { photo_id: source.id };
      casts = (await call('get', '/api/photos/{photo_id}/recipe', { path })).recipe.casts ?? [];
    } catch (error) {
      trouble = reasonOf(error);
    }
  });

  async function begin(): Promise<void> {
    busy = true;
    const chosen = casts.filter((c) => !without.has(c.id)).map((c) => c.id);
    const done = await work.treat({
      kind: kind === 'adopt' ? 'adopt' : shapes,
      photos,
      source: kind === 'adopt' ? null : (source?.id ?? null),
      casts: without.size ? chosen : null,
      least: least / 100,
      causes: [...causes],
      amount: amount / 100,
    });
    busy = false;
    if (!done) onclose();
  }

  const toggle = (set: Set<string>, value: string): void => {
    if (!set.delete(value)) set.add(value);
  };
</script>

<Dialog.Root open onOpenChange={(open) => !open && onclose()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="fixed top-[14%] left-1/2 z-50 w-[440px] -translate-x-1/2 border border-ink bg-raised p-5"
    >
      <Dialog.Title class="text-title font-semibold">{title}</Dialog.Title>
      <Dialog.Description class="mb-3 text-ink2">
        {photos.length} photos. You see what comes of it, photo by photo, before anything is saved.
      </Dialog.Description>
      {#if kind === 'adopt'}
        <SliderRow
          label="At least so sure"
          labelWidth={130}
          value={least}
          least={0}
          most={100}
          resting={50}
          unit="%"
          onpreview={(v) => (least = v)}
          oncommit={(v) => (least = v)}
        />
        <SliderRow
          label="Of the usual amount"
          labelWidth={130}
          value={amount}
          least={10}
          most={150}
          resting={100}
          unit="%"
          onpreview={(v) => (amount = v)}
          oncommit={(v) => (amount = v)}
        />
        {#if sheet.kinds.length > 1}
          <fieldset class="mt-3 flex flex-wrap gap-x-4 gap-y-1">
            <legend class="mb-1 text-ink2">Only casts by (none ticked: any)</legend>
            {#each sheet.kinds as cause (cause)}
              <label class="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  class="h-4 w-4 accent-[var(--ink)]"
                  checked={causes.has(cause)}
                  onchange={() => toggle(causes, cause)}
                />
                {KINDS[cause] ?? cause}
              </label>
            {/each}
          </fieldset>
        {/if}
      {:else}
        <div class="flex flex-col gap-2" role="radiogroup" aria-label="Shapes">
          <label class="flex gap-2">
            <input type="radio" class="accent-[var(--ink)]" value="follow" bind:group={shapes} />
            <span
              >Shapes follow their subject
              <span class="block text-ink2"
                >For frames of one series, in the order they were taken.</span
              ></span
            >
          </label>
          <label class="flex gap-2">
            <input type="radio" class="accent-[var(--ink)]" value="carry" bind:group={shapes} />
            <span
              >Shapes keep their place
              <span class="block text-ink2"
                >Keys, people and samples are found again in each photo.</span
              ></span
            >
          </label>
        </div>
        {#if casts.length > 1}
          <fieldset class="mt-3 flex flex-wrap gap-x-4 gap-y-1">
            <legend class="mb-1 text-ink2">Which casts</legend>
            {#each casts as cast, i (cast.id)}
              <label class="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  class="h-4 w-4 accent-[var(--ink)]"
                  checked={!without.has(cast.id)}
                  onchange={() => toggle(without, cast.id)}
                />
                {letterOf(i)}
                {cast.name}
              </label>
            {/each}
          </fieldset>
        {/if}
        <p class="mt-3 text-ink2">
          References stay those of {source?.title}, so that the set agrees.
        </p>
      {/if}
      {#if trouble || work.trouble}
        <p role="alert" class="notched mt-3 w-fit bg-attention py-1 pr-3 text-inverse">
          {trouble || work.trouble}
        </p>
      {/if}
      <div class="mt-5 flex justify-end gap-2">
        <Dialog.Close class="button tall">Cancel</Dialog.Close>
        <button
          class="button strong tall"
          disabled={busy || (kind !== 'adopt' && casts.length === without.size)}
          onclick={begin}>Propose</button
        >
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
