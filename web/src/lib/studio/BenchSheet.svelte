<script lang="ts">
  import MaskStation from '../mask/MaskStation.svelte';
  import ProofStation from '../proof/ProofStation.svelte';
  import RemedyStation from '../remedy/RemedyStation.svelte';
  import SampleStation from '../sample/SampleStation.svelte';
  import BenchPlace from './BenchPlace.svelte';
  import { useStudio } from './studio.svelte';

  /** Beside a portrait-format photo: the station in use as a single sheet, out of its own line in the strip. */
  const { bench } = useStudio();
  const shown = {
    sample: SampleStation,
    mask: MaskStation,
    remedy: RemedyStation,
    proof: ProofStation,
  };
  const Station = $derived(shown[bench.station]);
</script>

<div class="flex min-h-0 flex-col justify-end bg-surround">
  <div class="mt-3 flex max-h-full min-h-[240px] flex-col overflow-hidden bg-panel">
    <BenchPlace place="sheet"><Station /></BenchPlace>
  </div>
</div>
