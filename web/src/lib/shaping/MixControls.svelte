<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { Remedy } from '../api/types';
  import NumberField from '../controls/NumberField.svelte';
  import { useStudio } from '../studio/studio.svelte';

  /** What each channel takes of all three, and what its row comes to. */
  let { settings }: { settings: Snippet } = $props();
  type Mix = Extract<Remedy, { kind: 'channel-mix' }>;
  const CHANNELS = ['red', 'green', 'blue'] as const;
  const studio = useStudio();
  const mix = $derived(studio.remedy?.kind === 'channel-mix' ? studio.remedy : null);

  function set(channel: (typeof CHANNELS)[number], of: number, share: number): void {
    studio.changeRemedy((r) => {
      const was = r as Mix;
      const row = was[channel].map((v, i) => (i === of ? share : v));
      return { ...was, [channel]: row } as Mix;
    });
  }
</script>

{#if mix}
  <div class="flex flex-wrap gap-x-5 gap-y-1">
    <div class="min-w-[210px] flex-1">{@render settings()}</div>
    <table>
      <thead class="text-left text-ink2">
        <tr>
          <th class="pr-2 font-normal">new</th>
          {#each CHANNELS as of (of)}<th class="pr-1 text-right font-normal">of {of}</th>{/each}
          <th class="pl-2 text-right font-normal">sum</th>
        </tr>
      </thead>
      <tbody>
        {#each CHANNELS as channel (channel)}
          {@const sum = mix[channel].reduce((a, b) => a + b, 0)}
          <tr>
            <td class="pr-2">{channel}</td>
            {#each CHANNELS as of, i (of)}
              <td class="py-0.5 pr-1">
                <NumberField
                  label="New {channel}, of {of}"
                  value={(mix[channel][i] ?? 0) * 100}
                  least={-200}
                  most={200}
                  step={1}
                  unit=" %"
                  width={60}
                  onchange={(v) => set(channel, i, v / 100)}
                />
              </td>
            {/each}
            <td class="pl-2 text-right text-ink2">{(sum * 100).toFixed(0)} %</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
{/if}
