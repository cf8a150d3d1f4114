<script lang="ts">
  import { onDestroy, untrack } from 'svelte';
  import { call, callForFile, callWithForm, download } from '../api/client';
  import type { LookEffect, OwnLook, Recipe, TableFile } from '../api/types';
  import SliderRow from '../controls/SliderRow.svelte';
  import Station from '../controls/Station.svelte';
  import WordChoice from '../controls/WordChoice.svelte';
  import { useStudio } from '../studio/studio.svelte';
  import { changedLook, savingCast, withLook, withoutLook } from './look';

  /** Looks with small pictures of this photo, what the chosen one does to skin and greys, and colours out. */
  const studio = useStudio();
  const look = $derived(studio.recipe.look);
  const path = { photo_id: studio.photo.id };
  const EDGE = 148;
  let looks = $state.raw<OwnLook[]>([]);
  let pictures = $state<Record<string, string>>({});
  let effects = $state.raw<LookEffect[]>([]);
  let size = $state<'17' | '33' | '65'>('33');
  let told = $state('');
  let picker: HTMLInputElement;
  /** The recipe as it was before one was tried by hovering. */
  let before: Recipe | null = null;
  const tables = new Map<string, Promise<TableFile>>();
  let closed = false;

  onDestroy(() => {
    closed = true;
    leave();
    Object.values(pictures).forEach((address) => URL.revokeObjectURL(address));
  });

  const tableOf = (name: string): Promise<TableFile> => {
    const known = tables.get(name);
    if (known) return known;
    const made = call('post', '/api/photos/{photo_id}/looks/own', { path, body: { name } });
    tables.set(name, made);
    return made;
  };

  const small = $derived.by((): [number, number] => {
    const { width, height } = studio.photo;
    const scale = Math.min(1, EDGE / Math.max(width, height));
    return [Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale))];
  });

  async function picture(recipe: Recipe): Promise<string> {
    const region: [number, number, number, number] = [0, 0, ...small];
    const body = { recipe, size: small, region, draft: true };
    return URL.createObjectURL(await callForFile('/api/photos/{photo_id}/picture', { path, body }));
  }

  void studio.attempt(async () => {
    looks = await call('get', '/api/looks');
    const { recipe } = studio;
    for (const { name } of looks) {
      if (closed) return;
      pictures[name] = await picture(withLook({ ...recipe, look: null }, await tableOf(name)));
    }
  });

  $effect(() => {
    const { recipe, moving } = studio;
    if (moving) return;
    untrack(() => {
      void studio.attempt(async () => {
        const body = { recipe };
        effects = recipe.look
          ? await call('post', '/api/photos/{photo_id}/look-effect', { path, body })
          : [];
      });
    });
  });

  /** Over a look the photo shows it, until the pointer leaves. */
  async function hover(name: string): Promise<void> {
    const table = await tableOf(name);
    if (closed || studio.moving) return;
    before ??= studio.recipe;
    studio.preview(withLook(before, table));
    studio.moving = false;
  }

  function leave(): void {
    if (!before) return;
    studio.preview(before);
    studio.moving = false;
    before = null;
  }

  function lay(table: TableFile): void {
    const from = before ?? studio.recipe;
    before = null;
    studio.commit(withLook(from, table));
  }

  function choose(name: string): void {
    void studio.attempt(async () => lay(await tableOf(name)));
  }

  function bringIn(file: File | undefined): void {
    if (!file) return;
    const form = new FormData();
    form.append('file', file);
    void studio.attempt(async () => {
      lay(await callWithForm('/api/photos/{photo_id}/looks/file', path, form));
    });
  }

  /** One cast after the look, under the ready-made key of what is to be saved. */
  function save(group: LookEffect['group']): void {
    void studio.attempt(async () => {
      const keys = await call('get', '/api/keys');
      const wanted = group === 'skin' ? 'Skins' : 'Neutrals';
      const key = keys.find((k) => k.id == null && k.key.name === wanted)?.key;
      if (key) studio.addCast(savingCast(group === 'skin' ? 'Skin saved' : 'Greys saved', key));
    });
  }

  function takeOut(): void {
    void studio.attempt(async () => {
      const body = { recipe: studio.recipe, size: Number(size) };
      const made = await call('post', '/api/photos/{photo_id}/colour-table', { path, body });
      const left = made.left_out.length ? `; not in it: ${made.left_out.join(', ')}` : '';
      told = `ΔE to the engine at most ${made.largest.toFixed(1)}, mean ${made.mean.toFixed(2)}${left}`;
      const address = URL.createObjectURL(new Blob([made.file], { type: 'text/plain' }));
      download(address, `${studio.photo.title || 'colours'}.cube`);
      setTimeout(() => URL.revokeObjectURL(address), 60_000);
    });
  }

  /** Never -0. */
  const signed = (v: number): string => {
    const whole = Math.round(v) || 0;
    return `${whole > 0 ? '+' : ''}${whole}`;
  };
</script>

<Station number={1} title="Looks">
  {#snippet aside()}
    <button class="quiet" onclick={() => picker.click()}>From a file</button>
    <input
      bind:this={picker}
      class="hidden"
      type="file"
      accept=".cube"
      aria-label="A .cube table"
      onchange={(event) => {
        bringIn(event.currentTarget.files?.[0]);
        event.currentTarget.value = '';
      }}
    />
  {/snippet}
  <ul
    class="grid h-full grid-cols-[repeat(auto-fill,minmax(104px,1fr))] gap-1.5 overflow-y-auto"
    aria-label="Looks"
    onpointerleave={leave}
  >
    {#each looks as { name, purpose } (name)}
      <li>
        <button
          class="w-full border-2 text-left {look?.table.name === name
            ? 'border-ink'
            : 'border-transparent'}"
          aria-pressed={look?.table.name === name}
          title={purpose}
          onpointerenter={() => void hover(name)}
          onfocus={() => void hover(name)}
          onblur={leave}
          onclick={() => choose(name)}
        >
          <span class="block h-[52px] w-full overflow-hidden bg-surround">
            {#if pictures[name]}
              <img class="h-full w-full object-cover" src={pictures[name]} alt="" />
            {/if}
          </span>
          <span class="block truncate px-0.5 text-small">{name}</span>
        </button>
      </li>
    {/each}
  </ul>
</Station>

<Station number={2} title="This look">
  {#snippet aside()}
    {#if look}
      <button
        class="quiet"
        onclick={() => studio.commit(changedLook(studio.recipe, { on: !look.on }))}
        >{look.on ? 'Switch off' : 'Switch on'}</button
      >
      <button class="quiet text-ink2" onclick={() => studio.commit(withoutLook(studio.recipe))}
        >Take away</button
      >
    {/if}
  {/snippet}
  {#if look}
    <SliderRow
      label="Strength"
      labelWidth={70}
      value={look.amount * 100}
      resting={100}
      least={0}
      most={150}
      unit=" %"
      onpreview={(v) => studio.change(changedLook(studio.recipe, { amount: v / 100 }), false)}
      oncommit={(v) => studio.change(changedLook(studio.recipe, { amount: v / 100 }), true)}
    />
    <ul class="mt-1.5 flex flex-col gap-1" aria-label="What it does">
      {#each effects as effect (effect.group)}
        <li class="flex items-baseline gap-2">
          <span class="flex-1"
            >{effect.group === 'skin' ? 'Skin' : 'Greys'} moved {effect.moved.toFixed(
              1,
            )}{#if effect.group === 'skin'}, hue {signed(effect.turned)}°{/if}</span
          >
          <button class="quiet" onclick={() => save(effect.group)}
            >{effect.group === 'skin' ? 'Save skin' : 'Save greys'}</button
          >
        </li>
      {/each}
    </ul>
  {:else}
    <p class="text-ink2">
      A look is laid over the photo between the casts before it and those after it. Hover over one
      to try it.
    </p>
  {/if}
</Station>

<Station number={3} title="Colours out">
  <div class="flex items-center gap-2">
    <WordChoice
      label="Entries along each side"
      value={size}
      words={[
        ['17', '17'],
        ['33', '33'],
        ['65', '65'],
      ]}
      onchange={(s) => (size = s)}
    />
    <button class="button" onclick={takeOut}>Save as .cube</button>
  </div>
  <p class="mt-1.5 text-ink2" role="status">
    {told || 'Base, casts and look as one table of colours, without masks.'}
  </p>
</Station>
