<script lang="ts">
  import { call, download } from '../api/client';
  import Station from '../controls/Station.svelte';
  import WordChoice from '../controls/WordChoice.svelte';
  import { lettered } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import type { Shelf } from './shelf.svelte';

  /** The colours of the treatment, or of one cast, as a table: saved as a file, or kept as a look. */
  let { shelf }: { shelf: Shelf } = $props();
  const studio = useStudio();
  let size = $state<'17' | '33' | '65'>('33');
  let codes = $state<'srgb' | 'photo'>('srgb');
  let of = $state('');
  let told = $state('');
  const SIZES = [
    ['17', '17'],
    ['33', '33'],
    ['65', '65'],
  ] as const;
  const CODES = [
    ['srgb', 'sRGB'],
    ['photo', 'photo’s profile'],
  ] as const;
  const casts = $derived(
    lettered(studio.recipe).filter(({ cast }) => cast.on && cast.mask.parts.length),
  );
  const named = $derived(casts.find(({ cast }) => cast.id === of)?.cast);

  async function made(wanted: 'srgb' | 'photo'): Promise<File> {
    const body = {
      recipe: studio.recipe,
      cast: named?.id ?? null,
      size: Number(size),
      codes: wanted,
    };
    const path = { photo_id: studio.photo.id };
    const answer = await call('post', '/api/photos/{photo_id}/colour-table', { path, body });
    const left = answer.left_out.length ? `; not in it: ${answer.left_out.join(', ')}` : '';
    told = `ΔE to the engine at most ${answer.largest.toFixed(1)}, mean ${answer.mean.toFixed(2)}${left}`;
    const name = named ? studio.nameOf(named) : studio.photo.title || 'colours';
    return new File([answer.file], `${name}.cube`, { type: 'text/plain' });
  }

  function save(): void {
    void studio.attempt(async () => {
      const file = await made(codes);
      const address = URL.createObjectURL(file);
      download(address, file.name);
      setTimeout(() => URL.revokeObjectURL(address), 60_000);
    });
  }

  function keep(): void {
    void studio.attempt(async () => {
      const file = await made('srgb');
      const { name } = await shelf.keep(file, file.name.replace(/\.cube$/, '').slice(0, 120));
      told = `Kept among the looks as ${name}`;
    });
  }
</script>

<Station number={3} title="Colours out">
  <div class="flex flex-wrap items-center gap-x-2 gap-y-1">
    <select class="field max-w-[170px]" aria-label="Of what" bind:value={of}>
      <option value="">Base, casts and look</option>
      {#each casts as { cast, letter } (cast.id)}
        <option value={cast.id}>{letter} {studio.nameOf(cast)}</option>
      {/each}
    </select>
    <WordChoice
      label="Entries along each side"
      value={size}
      words={SIZES}
      onchange={(s) => (size = s)}
    />
    {#if studio.photo.profile !== 'sRGB'}
      <WordChoice
        label="In the codes of"
        value={codes}
        words={CODES}
        onchange={(c) => (codes = c)}
      />
    {/if}
  </div>
  <div class="mt-1.5 flex items-center gap-2">
    <button class="button" onclick={save}>Save as .cube</button>
    <button
      class="quiet"
      title="Among your looks, for every photo; of the same name it takes the other's place"
      onclick={keep}>Keep as a look</button
    >
  </div>
  <p class="mt-1.5 text-ink2" role="status">
    {told || 'One table of colours, without masks.'}
  </p>
</Station>
