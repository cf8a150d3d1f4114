<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { call, reasonOf } from '../api/client';
  import type { Measured, Touches } from '../api/types';
  import { swatch } from '../instruments/swatch';
  import { useStudio } from '../studio/studio.svelte';
  import { shareText } from './share';

  /** Which colours the selected cast's remedies touch: any that there are, and those of the photo. */
  let { open = $bindable() }: { open: boolean } = $props();
  const studio = useStudio();
  let touches = $state.raw<Touches | null>(null);
  let trouble = $state('');
  const RANGE = 95; // CIELAB a* and b* that the drawing reaches
  const NOTABLE = 2; // ΔE2000: what moves less is hardly seen

  $effect(() => {
    if (open && studio.castId) void load(studio.castId);
  });

  async function load(cast: string): Promise<void> {
    trouble = '';
    try {
      const body = { recipe: studio.recipe, cast };
      touches = await call('post', '/api/photos/{photo_id}/touches', {
        path: { photo_id: studio.photo.id },
        body,
      });
    } catch (error) {
      trouble = `${reasonOf(error)}.`;
    }
  }

  const x = ({ lab }: Measured): number => lab[1];
  const y = ({ lab }: Measured): number => -lab[2];
  const size = (share: number): number => 3 + 14 * Math.sqrt(share);
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="fixed top-[5%] left-1/2 z-50 flex max-h-[90%] w-[940px] max-w-[96%] -translate-x-1/2 flex-col border border-ink bg-raised p-5"
    >
      <Dialog.Title class="text-title font-semibold">What cast {studio.letter} touches</Dialog.Title
      >
      <Dialog.Description class="mb-3 text-ink2">
        Lines lead from each colour to what the remedies make of it where they act in full. Squares
        are the photo's own main colours, as large as they are frequent.
      </Dialog.Description>
      {#if trouble}<p role="alert">{trouble}</p>{/if}
      {#if touches}
        <div class="grid min-h-0 flex-1 grid-cols-[minmax(0,420px)_minmax(0,1fr)] gap-5">
          <svg
            viewBox="{-RANGE} {-RANGE} {2 * RANGE} {2 * RANGE}"
            class="aspect-square w-full bg-field"
            role="img"
            aria-label="Colours before and after, in the plane of a* and b*"
          >
            <path d="M{-RANGE} 0H{RANGE}M0 {-RANGE}V{RANGE}" class="axis" />
            {#each touches.chart as { before, after }, i (i)}
              <path d="M{x(before)} {y(before)}L{x(after)} {y(after)}" class="way" />
              <circle cx={x(before)} cy={y(before)} r="1.6" fill={swatch(before)} />
              <circle cx={x(after)} cy={y(after)} r="2.6" fill={swatch(after)} class="to" />
            {/each}
            {#each touches.colours as { before, unmasked, share }, i (i)}
              {@const wide = size(share)}
              <path d="M{x(before)} {y(before)}L{x(unmasked)} {y(unmasked)}" class="own" />
              <rect
                x={x(before) - wide / 2}
                y={y(before) - wide / 2}
                width={wide}
                height={wide}
                fill={swatch(before)}
                class="square"
              />
            {/each}
          </svg>
          <div class="min-h-0 overflow-y-auto">
            <table class="w-full">
              <caption class="pb-1 text-left font-semibold">The photo's main colours</caption>
              <thead>
                <tr class="text-left text-small text-ink2">
                  <th scope="col" class="font-normal">Before, now, unmasked</th>
                  <th scope="col" class="text-right font-normal">Of the photo</th>
                  <th scope="col" class="text-right font-normal">Moved, ΔE</th>
                  <th scope="col" class="text-right font-normal">Unmasked, ΔE</th>
                </tr>
              </thead>
              <tbody>
                {#each touches.colours as colour, i (i)}
                  <tr class="border-t border-faint">
                    <td class="py-1">
                      <span class="flex">
                        {#each [colour.before, colour.now, colour.unmasked] as one, j (j)}
                          <span
                            class="h-5 w-9"
                            style:background={swatch(one)}
                            title="L {one.lab[0].toFixed(0)}, a {one.lab[1].toFixed(
                              0,
                            )}, b {one.lab[2].toFixed(0)}"
                          ></span>
                        {/each}
                      </span>
                    </td>
                    <td class="text-right">{shareText(colour.share)}</td>
                    <td class="text-right" class:font-semibold={colour.moved >= NOTABLE}
                      >{colour.moved.toFixed(1)}</td
                    >
                    <td class="text-right" class:font-semibold={colour.would_move >= NOTABLE}
                      >{colour.would_move.toFixed(1)}</td
                    >
                  </tr>
                {/each}
              </tbody>
            </table>
          </div>
        </div>
      {/if}
      <div class="mt-4 flex justify-end">
        <Dialog.Close class="button tall">Close</Dialog.Close>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>

<style>
  .axis {
    stroke: var(--line);
    stroke-width: 0.5;
  }
  .way {
    stroke: var(--ink);
    stroke-width: 0.55;
  }
  .to {
    stroke: var(--ink);
    stroke-width: 0.5;
  }
  .own {
    stroke: var(--ink);
    stroke-width: 1.3;
  }
  .square {
    stroke: var(--ink);
    stroke-width: 0.8;
  }
</style>
