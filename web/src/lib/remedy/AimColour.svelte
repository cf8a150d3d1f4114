<script lang="ts">
  import { Popover } from 'bits-ui';
  import { call } from '../api/client';
  import { Newest } from '../api/newest';
  import type { Measured, Sample } from '../api/types';
  import { swatch } from '../instruments/swatch';
  import LibraryPicker from '../references/LibraryPicker.svelte';
  import TypedColour from '../sample/TypedColour.svelte';
  import { useStudio } from '../studio/studio.svelte';
  import type { Tool } from '../studio/tools';

  /** The colour that a remedy goes towards: sampled, typed, from the library or from another photo. */
  interface Props {
    label: string;
    rgb: Sample['rgb'] | null;
    /** The tool that samples it. */
    tool: Extract<Tool, 'target' | 'tone'>;
  }
  let { label, rgb, tool }: Props = $props();
  const studio = useStudio();
  const newest = new Newest();
  let seen = $state.raw<Measured | null>(null);
  let open = $state(false);

  $effect(() => {
    const values = rgb;
    if (!values) {
      newest.forget();
      return void (seen = null);
    }
    const path = { photo_id: studio.photo.id };
    const body = { colours: [values] };
    void studio.attempt(async () => {
      const asked = call('post', '/api/photos/{photo_id}/seen', { path, body });
      const answer = await newest.answer(asked);
      if (answer) seen = answer[0] ?? null;
    });
  });

  function beside(): void {
    studio.tool = tool;
    studio.besideOpen = true;
    open = false;
  }
</script>

<div class="flex items-center gap-2">
  <span
    class="h-[26px] w-10 shrink-0 {seen ? '' : 'border border-dashed border-line'}"
    title={label}
    style:background={swatch(seen ?? undefined)}
  ></span>
  <button
    class="button"
    aria-pressed={studio.tool === tool}
    title="Click the colour on the photo"
    onclick={() => studio.toggleTool(tool)}>Sample {label.toLowerCase()}</button
  >
  <Popover.Root
    bind:open
    onOpenChange={(opened) => opened && void studio.attempt(() => studio.library.load())}
  >
    <Popover.Trigger class="button" aria-label="{label} from elsewhere"
      >From<span aria-hidden="true">▾</span></Popover.Trigger
    >
    <Popover.Portal>
      <Popover.Content
        class="menu w-[420px] p-3"
        role="dialog"
        aria-label="{label} from elsewhere"
        side="top"
        align="start"
        sideOffset={4}
      >
        <button class="button mb-2" disabled={studio.opened.neighbours.length < 2} onclick={beside}
          >Another photo beside</button
        >
        <LibraryPicker
          library={studio.library}
          onpick={(entry) => studio.sampler.aimAt(entry.colour.rgb)}
        />
        {#if seen}
          <TypedColour
            colour={seen}
            onchange={(space, values) => void studio.sampler.typeAim(space, values)}
          />
        {/if}
      </Popover.Content>
    </Popover.Portal>
  </Popover.Root>
</div>
