<script lang="ts">
  import type { SkinOf } from '../api/types';
  import { useStudio } from '../studio/studio.svelte';

  /** The skin of each face, before and now. */
  const studio = useStudio();
  const { proving } = studio;

  const degrees = (v: number): string => `${Math.abs(v).toFixed(0)}°`;
  const number = (v: number | null | undefined): string => (v == null ? '–' : v.toFixed(1));
  const rows = (skin: SkinOf): [string, string, string, string][] => [
    [
      'Off the skin line',
      degrees(skin.before.angle),
      degrees(skin.now.angle),
      'Degrees between the face and the line on which healthy skins lie',
    ],
    [
      'Spread',
      number(skin.before.spread),
      number(skin.now.spread),
      'Mean distance in a*, b* from the face’s own mean',
    ],
    [
      'Left against right',
      number(skin.before.sides),
      number(skin.now.sides),
      'ΔE2000 between the sides of the face, as light as each other',
    ],
  ];
</script>

{#each proving.skins as skin (skin.who)}
  <section class="mb-3" aria-label="Skin of face {skin.who}">
    <h3 class="mb-1 font-semibold">Skin of face {skin.who}</h3>
    <table class="w-full text-small">
      <tbody>
        {#each rows(skin) as [name, before, now, meaning] (name)}
          <tr title={meaning}>
            <th scope="row" class="text-left font-normal">{name}</th>
            <td class="text-right whitespace-nowrap">{before} → {now}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </section>
{/each}
