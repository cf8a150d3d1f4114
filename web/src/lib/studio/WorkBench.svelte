<script lang="ts">
  import BaseBench from '../base/BaseBench.svelte';
  import MaskStation from '../mask/MaskStation.svelte';
  import ProofStation from '../proof/ProofStation.svelte';
  import RemedyStation from '../remedy/RemedyStation.svelte';
  import SampleStation from '../sample/SampleStation.svelte';
  import LookBench from '../look/LookBench.svelte';
  import BenchHandle from './BenchHandle.svelte';
  import BenchPlace from './BenchPlace.svelte';
  import { useStudio } from './studio.svelte';

  /** The four stations below the photo; beside a portrait-format one, a strip with a line for each. */
  const studio = useStudio();
  const { bench } = studio;
</script>

{#snippet stations()}
  <SampleStation />
  <MaskStation />
  <RemedyStation />
  <ProofStation />
{/snippet}

{#if studio.strip}
  <section class="grid min-h-0 grid-cols-4 border-t border-line" aria-label="Bench">
    <BenchPlace place="strip">{@render stations()}</BenchPlace>
  </section>
{:else}
  <section class="relative min-h-0" aria-label="Bench">
    {#if studio.settingBase}
      <div
        class="grid h-full grid-cols-[minmax(0,340fr)_minmax(0,400fr)_minmax(0,290fr)_minmax(0,250fr)] border-t border-line"
      >
        <BaseBench />
      </div>
    {:else if studio.settingLook}
      <div
        class="grid h-full grid-cols-[minmax(0,560fr)_minmax(0,300fr)_minmax(0,260fr)] border-t border-line"
      >
        <LookBench />
      </div>
    {:else}
      <div
        class="grid h-full border-t border-line"
        style:grid-template-columns={bench.columns}
        style:grid-template-rows="minmax(0, 1fr)"
      >
        {@render stations()}
      </div>
    {/if}
    <BenchHandle />
  </section>
{/if}
