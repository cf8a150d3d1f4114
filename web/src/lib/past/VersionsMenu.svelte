<script lang="ts">
  import PopoverPanel from '../controls/PopoverPanel.svelte';
  import { useStudio } from '../studio/studio.svelte';

  const studio = useStudio();
  const { versions } = studio;
  let name = $state('');

  async function keep(event: Event): Promise<void> {
    event.preventDefault();
    await versions.keep(name);
    name = '';
  }
</script>

<PopoverPanel
  label="Versions"
  room="w-[380px]"
  pressed={versions.flippedId !== null}
  onopen={() => void studio.attempt(() => versions.load())}
>
  {#snippet button()}Versions<span aria-hidden="true">▾</span>{/snippet}

  <form class="mb-2 flex gap-1.5" onsubmit={keep}>
    <input
      class="field min-w-0 flex-1"
      aria-label="Name of the version"
      placeholder="Keep the present state as"
      maxlength="80"
      required
      bind:value={name}
    />
    <button class="button">Keep</button>
  </form>
  <ul class="max-h-[420px] overflow-y-auto" aria-label="Versions of this photo">
    {#each versions.all as version (version.id)}
      <li class="border-t border-line py-1.5">
        <div class="flex items-center gap-1.5">
          <input
            class="field min-w-0 flex-1 border-transparent bg-transparent px-0 font-semibold"
            aria-label="Name of {version.name}"
            value={version.name}
            maxlength="80"
            onchange={(event) => {
              const to = event.currentTarget.value.trim();
              if (to) void versions.rename(version.id, to);
              else event.currentTarget.value = version.name;
            }}
          />
          <button
            class="button"
            aria-pressed={versions.flippedId === version.id}
            onclick={() =>
              (versions.flippedId = versions.flippedId === version.id ? null : version.id)}
            >Show</button
          >
          <button class="button" onclick={() => versions.take(version.id)}>Work on from it</button>
          <button
            class="quiet"
            aria-label="Delete {version.name}"
            onclick={() => versions.remove(version.id)}>×</button
          >
        </div>
        <p class="text-small text-ink2">
          {#if version.differs.length}
            Since then: {version.differs.slice(0, 4).join('; ')}{version.differs.length > 4
              ? ` and ${version.differs.length - 4} more`
              : ''}.
          {:else}
            The same as now.
          {/if}
        </p>
      </li>
    {:else}
      <li class="text-ink2">None kept yet.</li>
    {/each}
  </ul>
  {#if versions.all.length}
    <p class="mt-1 text-small text-ink2">Full stop and comma flip through them on the photo.</p>
  {/if}
</PopoverPanel>
