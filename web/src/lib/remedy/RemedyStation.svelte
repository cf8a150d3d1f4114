<script lang="ts">
  import { KINDS } from '../../generated/kinds';
  import type { Remedy } from '../api/types';
  import SliderRow from '../controls/SliderRow.svelte';
  import { swatch } from '../instruments/swatch';
  import { useStudio } from '../studio/studio.svelte';
  import RemedyList from './RemedyList.svelte';
  import type { Setting } from './descriptor';
  import { descriptorOf } from './descriptors';
  import Station from '../controls/Station.svelte';
  import TouchPanel from '../touch/TouchPanel.svelte';

  const studio = useStudio();
  const remedy = $derived(studio.remedy);
  const target = $derived(studio.castProof?.targets.find((t) => t.id === remedy?.id)?.colour);

  const descriptor = $derived(remedy && descriptorOf(remedy));
  const aimed = $derived(remedy && KINDS.remedies[remedy.kind].aimed);

  // Every setting is a field of the remedy it belongs to; its descriptor says which.
  const valueOf = (of: Remedy, name: string): number =>
    (of as unknown as Record<string, number>)[name] ?? 0;
  const isOn = (of: Remedy, name: string): boolean =>
    (of as unknown as Record<string, boolean>)[name] ?? false;

  function set({ name, factor }: Setting, value: number, done: boolean): void {
    studio.changeRemedy((r) => ({ ...r, [name]: value / factor }), done);
  }
</script>

<Station number={3} title="Remedy">
  {#snippet aside()}
    {#if remedy}
      <button
        class="quiet aria-pressed:bg-ink aria-pressed:text-inverse"
        aria-pressed={!remedy.on}
        onclick={() => studio.changeRemedy((r) => ({ ...r, on: !r.on }))}
        >{remedy.on ? 'Switch off' : 'Switched off'}</button
      >
    {/if}
  {/snippet}
  {#if studio.cast}<RemedyList cast={studio.cast} />{/if}
  {#if studio.tool === 'touch'}
    <TouchPanel />
  {:else if remedy && descriptor}
    {#each descriptor.settings as setting (setting.name)}
      <SliderRow
        label={setting.label}
        labelWidth={88}
        value={valueOf(remedy, setting.name) * setting.factor}
        resting={setting.resting}
        least={setting.least}
        most={setting.most}
        unit={setting.unit}
        fromRest={setting.least < 0}
        onpreview={(v) => set(setting, v, false)}
        oncommit={(v) => set(setting, v, true)}
      />
    {/each}
    {#if aimed}
      <div class="mt-1 flex items-center gap-2">
        <span class="h-[22px] w-8" title="Target" style:background={swatch(target)}></span>
        <button
          class="button"
          aria-pressed={studio.tool === 'target'}
          title="Click the colour that the others should come to"
          onclick={() => studio.toggleTool('target')}>Sample target</button
        >
      </div>
    {/if}
    {#each descriptor.ticks ?? [] as [name, label] (name)}
      <label class="mt-1 flex items-center gap-2">
        <input
          type="checkbox"
          class="h-4 w-4 accent-[var(--ink)]"
          checked={isOn(remedy, name)}
          onchange={(event) => {
            const on = event.currentTarget.checked;
            studio.changeRemedy((r) => ({ ...r, [name]: on }));
          }}
        />
        {label}
      </label>
    {/each}
    <button
      class="button mt-1.5"
      aria-pressed={studio.tool === 'turn'}
      title={descriptor.dragHint}
      onclick={() => studio.toggleTool('turn')}>Drag on photo</button
    >
    {#if KINDS.remedies[remedy.kind].follows}
      <button
        class="button mt-1.5"
        title="Say how much of the cast lies at a place"
        onclick={() => studio.toggleTool('touch')}
        >Touch amounts{studio.touching.touches.length
          ? ` (${studio.touching.touches.length})`
          : ''}</button
      >
    {/if}
  {:else}
    <p class="text-ink2">
      {studio.cast
        ? 'Nothing is done about this cast. Add a remedy.'
        : 'The cast is taken off here, as much of it as each place carries.'}
    </p>
  {/if}
</Station>
