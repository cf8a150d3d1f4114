<script lang="ts">
  import KeepForm from '../controls/KeepForm.svelte';
  import PopoverPanel from '../controls/PopoverPanel.svelte';
  import { keyOf, shownKey } from '../help/commands';
  import { useStudio } from '../studio/studio.svelte';

  const studio = useStudio();
  const { versions } = studio;
</script>

<PopoverPanel
  label="Versions"
  room="w-[380px]"
  pressed={versions.flippedId !== null}
  onopen={() => void studio.attempt(() => versions.load())}
>
  {#snippet button()}Versions<span aria-hidden="true">▾</span>{/snippet}

  <KeepForm
    label="Name of the version"
    placeholder="Keep the present state as"
    most={80}
    onkeep={(name) => versions.keep(name)}
  />
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
    <p class="mt-1 text-small text-ink2">
      The keys <kbd>{shownKey(keyOf('later-version'))}</kbd> and
      <kbd>{shownKey(keyOf('earlier-version'))}</kbd> flip through them on the photo.
    </p>
  {/if}
</PopoverPanel>
