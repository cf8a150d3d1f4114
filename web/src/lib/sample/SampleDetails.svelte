<script lang="ts">
  import { Popover } from 'bits-ui';
  import type { Kind, Measured, Sample } from '../api/types';
  import { swatch } from '../instruments/swatch';
  import KeepColour from '../references/KeepColour.svelte';
  import { changeSample, withoutSample, type Whose } from '../recipe/edit';
  import { useStudio } from '../studio/studio.svelte';
  import { KIND_NAMES, valuesOf } from './sample-values';
  import TypedColour from './TypedColour.svelte';

  /** A sample's patch; opened, its colours side by side, its values, and what can be said of it. */
  interface Props {
    whose: Whose;
    sample: Sample;
    title: string;
    /** Is, should be, is now, as far as each has a meaning; the first is the sample itself. */
    colours: [string, Measured | null | undefined][];
    /** Which of them the patch shows, side by side. */
    shown: (Measured | null | undefined)[];
  }
  let { whose, sample, title, colours, shown }: Props = $props();
  const studio = useStudio();
  const own = $derived(colours[0]?.[1]);

  function correct(kind: string): void {
    const said = kind === 'guess' ? null : (kind as Kind);
    studio.changeCast((c) => changeSample(c, whose, (s) => ({ ...s, kind: said })));
  }
</script>

<Popover.Root>
  <Popover.Trigger class="patch overflow-hidden" aria-label="{title}, its values" {title}>
    {#each shown as colour, i (i)}
      <span class="flex-1 self-stretch" style:background={swatch(colour)}></span>
    {/each}
  </Popover.Trigger>
  <Popover.Portal>
    <Popover.Content
      class="menu w-[360px] p-3"
      role="dialog"
      aria-label={title}
      side="top"
      align="start"
      sideOffset={4}
    >
      <h3 class="mb-2 font-semibold">{title}</h3>
      <div class="mb-2 flex">
        {#each colours as [name, colour] (name)}
          {#if colour}
            <span class="flex flex-1 flex-col">
              <span class="h-10" style:background={swatch(colour)}></span>
              <span class="text-small text-ink2">{name}</span>
            </span>
          {/if}
        {/each}
      </div>
      {#if own}
        <dl class="grid grid-cols-[110px_1fr] text-small">
          {#each valuesOf(own, sample) as [name, value] (name)}
            <dt class="text-ink2">{name}</dt>
            <dd>{value}</dd>
          {/each}
        </dl>
        {#if whose.role === 'reference'}
          <TypedColour
            colour={own}
            onchange={(space, values) => studio.sampler.typeReference(whose.id, space, values)}
          />
        {/if}
        <label class="mt-2 flex items-center gap-2">
          Kind
          <select
            class="field flex-1"
            aria-label="Kind of surface"
            value={sample.kind ?? 'guess'}
            onchange={(event) => correct(event.currentTarget.value)}
          >
            <option value="guess">{KIND_NAMES[own.kind]}, as guessed</option>
            {#each Object.entries(KIND_NAMES) as [kind, name] (kind)}
              <option value={kind}>{name}</option>
            {/each}
          </select>
        </label>
        <KeepColour lab={own.lab} kind={sample.kind ?? own.kind} />
      {/if}
      <p class="mt-2 flex items-center text-small text-ink2">
        {#if sample.at}Without a tool in hand (Esc), its tag can be dragged.{/if}
        <button
          class="quiet ml-auto underline"
          onclick={() => studio.changeCast((c) => withoutSample(c, whose))}>Remove</button
        >
      </p>
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
