<script lang="ts">
  import type { Remedy } from '../api/types';
  import SliderRow from '../controls/SliderRow.svelte';
  import { useStudio } from '../studio/studio.svelte';
  import AimColour from './AimColour.svelte';
  import type { Setting } from './descriptor';
  import { descriptorOf } from './descriptors';

  /** What can be set of one remedy. */
  let { remedy }: { remedy: Remedy } = $props();
  const studio = useStudio();
  const descriptor = $derived(descriptorOf(remedy));
  const Controls = $derived(descriptor.controls);

  // Every setting is a field of the remedy it belongs to; its descriptor says which.
  const valueOf = (name: string): number =>
    (remedy as unknown as Record<string, number>)[name] ?? 0;
  const isOn = (name: string): boolean =>
    (remedy as unknown as Record<string, boolean>)[name] ?? false;

  function set({ name, factor }: Setting, value: number, done: boolean): void {
    studio.changeRemedy((r) => ({ ...r, [name]: value / factor }), done);
  }
</script>

{#snippet settings()}
  {#each descriptor.settings as setting (setting.name)}
    <SliderRow
      label={setting.label}
      labelWidth={88}
      value={valueOf(setting.name) * setting.factor}
      resting={setting.resting}
      least={setting.least}
      most={setting.most}
      beyond={setting.beyond}
      step={setting.step}
      width={setting.width}
      unit={setting.unit}
      toBar={setting.toBar}
      fromBar={setting.fromBar}
      fromRest={setting.least < 0}
      onpreview={(v) => set(setting, v, false)}
      oncommit={(v) => set(setting, v, true)}
    />
  {/each}
{/snippet}

{#if Controls}
  <Controls {settings} />
{:else}
  <div class="grid grid-cols-[repeat(auto-fit,minmax(220px,1fr))] gap-x-5">
    {@render settings()}
  </div>
{/if}
{#if 'target' in remedy}
  <div class="mt-1"><AimColour label="Target" rgb={remedy.target} tool="target" /></div>
{/if}
{#each descriptor.ticks ?? [] as [name, label] (name)}
  <label class="flex items-center gap-2">
    <input
      type="checkbox"
      class="h-4 w-4 accent-[var(--ink)]"
      checked={isOn(name)}
      onchange={(event) => {
        const on = event.currentTarget.checked;
        studio.changeRemedy((r) => ({ ...r, [name]: on }));
      }}
    />
    {label}
  </label>
{/each}
