<script lang="ts">
  import { untrack } from 'svelte';
  import { call } from '../api/client';
  import { Newest } from '../api/newest';
  import type { LookEffect } from '../api/types';
  import SliderRow from '../controls/SliderRow.svelte';
  import Station from '../controls/Station.svelte';
  import { lettered, newId, newKey, newLent } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import { changedLook, savingCast, withoutLook } from './look';

  /** The look that lies over the photo: its strength, what it does to skin and greys, what is saved from it. */
  const studio = useStudio();
  const look = $derived(studio.recipe.look);
  const path = { photo_id: studio.photo.id };
  const WORDS = {
    skin: { name: 'Skin', key: 'Skins', saved: 'Skin saved' },
    lips: { name: 'Lips', key: '', saved: 'Lips saved' },
    greys: { name: 'Greys', key: 'Neutrals', saved: 'Greys saved' },
  };
  const newest = new Newest();
  let effects = $state.raw<LookEffect[]>([]);
  /** Casts whose place can be saved: each with its letter. */
  const masked = $derived(
    lettered(studio.recipe).filter(({ cast }) => cast.mask.parts.length && !cast.after_look),
  );

  $effect(() => {
    const { recipe, moving } = studio;
    if (moving) return;
    untrack(() => {
      void studio.attempt(async () => {
        if (!recipe.look) {
          newest.forget();
          effects = [];
          return;
        }
        const asked = call('post', '/api/photos/{photo_id}/look-effect', {
          path,
          body: { recipe },
        });
        effects = (await newest.answer(asked)) ?? effects;
      });
    });
  });

  /** A cast after the look, under the ready-made key of what is to be saved; of lips, under themselves. */
  function save({ group }: LookEffect): void {
    void studio.attempt(async () => {
      if (group === 'lips') {
        const lips = await studio.people.made(newId(), 'lips', null);
        return studio.addCast(savingCast(WORDS.lips.saved, [lips]));
      }
      const keys = await call('get', '/api/keys');
      const key = keys.find((k) => k.id == null && k.key.name === WORDS[group].key)?.key;
      if (key) studio.addCast(savingCast(WORDS[group].saved, [newKey(key)]));
    });
  }

  /** What is like the place that is clicked next, and what is painted. */
  function savePlace(): void {
    studio.addCast(savingCast('Place saved', []));
    studio.tool = 'similar';
  }

  /** Never -0. */
  const signed = (v: number): string => {
    const whole = Math.round(v) || 0;
    return `${whole > 0 ? '+' : ''}${whole}`;
  };
</script>

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
        {@const { name } = WORDS[effect.group]}
        <li class="flex items-baseline gap-2">
          <span class="flex-1"
            >{name} moved {effect.moved.toFixed(1)}{#if effect.turned}, hue {signed(
                effect.turned,
              )}°{/if}</span
          >
          <button class="quiet" onclick={() => save(effect)}>Save {name.toLowerCase()}</button>
        </li>
      {/each}
    </ul>
    <div class="mt-1 flex flex-wrap items-baseline gap-1">
      <span class="text-ink2">Save from it</span>
      <button
        class="quiet"
        title="A cast after the look for what is like the place that you click; paint to add to it"
        onclick={savePlace}>a place</button
      >
      {#each masked as { cast, letter } (cast.id)}
        <button
          class="quiet"
          title="Bring back the colour from before the look where {studio.nameOf(cast)} is masked"
          onclick={() =>
            studio.addCast(savingCast(`Where ${letter} is, saved`, [newLent(cast.id)]))}
          >where {letter} is</button
        >
      {/each}
    </div>
  {:else}
    <p class="text-ink2">
      A look is laid over the photo between the casts before it and those after it. Hover over one
      to try it.
    </p>
  {/if}
</Station>
