<script lang="ts">
  import Concerns from './Concerns.svelte';
  import { useStudio } from '../studio/studio.svelte';
  import SheetsMenu from '../proof/SheetsMenu.svelte';
  import Station from './Station.svelte';

  const studio = useStudio();
  const cast = $derived(studio.castProof);
  const photo = $derived(studio.proof);

  const rows = $derived.by(() => {
    const made: [string, string, string][] = [];
    if (!photo) return made;
    if (cast?.before != null && cast.after != null)
      made.push([
        'Distance to reference',
        `${cast.before.toFixed(1)} → ${cast.after.toFixed(1)}`,
        'Mean ΔE2000 of the samples to their references, before and now',
      ]);
    if (cast) {
      made.push(['Lightness change', signed(cast.lightness_change), 'Mean L* change in the mask']);
      made.push(['Masked', `${(cast.area * 100).toFixed(1)} %`, 'Share of the photo']);
    }
    made.push([
      'Outside the masks',
      photo.outside_most.toFixed(1),
      'The most that any place moved where no mask reaches, ΔE2000',
    ]);
    if (cast?.guards.length) {
      const most = Math.max(...cast.guards.map((g) => g.moved));
      const word = cast.guards.every((g) => g.held) ? 'held' : 'moved';
      made.push(['Kept colours', `${word}, ${most.toFixed(1)}`, 'The most that one moved, ΔE2000']);
    }
    made.push([
      'Newly clipped',
      `${(photo.newly_clipped * 100).toFixed(2)} %`,
      'Pixels that reach an end of the gamut and did not before',
    ]);
    return made;
  });

  function signed(value: number): string {
    const text = Math.abs(value).toFixed(2);
    return value < -0.005 ? `−${text}` : value > 0.005 ? `+${text}` : '0.00';
  }
</script>

<Station number={4} title="Proof">
  {#snippet aside()}<SheetsMenu />{/snippet}
  {#if cast?.concerns.length}<Concerns concerns={cast.concerns} />{/if}
  <table class="w-full" data-testid="proof">
    <tbody>
      {#each rows as [name, figure, meaning] (name)}
        <tr class="border-b border-faint" title={meaning}>
          <th scope="row" class="h-[24px] text-left font-normal">{name}</th>
          <td class="text-right font-semibold whitespace-nowrap">{figure}</td>
        </tr>
      {/each}
    </tbody>
  </table>
</Station>
