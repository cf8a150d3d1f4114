<script lang="ts">
  import type { Kind, LibraryColour } from '../api/types';
  import { reasonOf } from '../api/client';
  import { useStudio } from '../studio/studio.svelte';
  import { GROUPS } from './library.svelte';

  /** Puts a colour into the library, for every shoot or for this one. */
  let { lab, kind }: { lab: LibraryColour['lab']; kind: Kind } = $props();
  const studio = useStudio();
  let name = $state('');
  let chosen = $state<LibraryColour['group'] | null>(null);
  let everywhere = $state(true);
  let told = $state('');
  const group = $derived(chosen ?? (kind === 'neutral' || kind === 'skin' ? kind : 'material'));

  async function keep(event: Event): Promise<void> {
    event.preventDefault();
    const shoot = everywhere ? null : studio.opened.shoot_id;
    try {
      await studio.library.keep({ name, group, lab, note: studio.photo.title }, shoot);
      told = `${name} is in the library.`;
      name = '';
    } catch (error) {
      told = `${reasonOf(error)}.`;
    }
  }
</script>

<form class="mt-2 border-t border-line pt-2" onsubmit={keep}>
  <div class="flex gap-1.5">
    <input
      class="field min-w-0 flex-1"
      aria-label="Name in the library"
      placeholder="Keep in the library as"
      maxlength="80"
      required
      bind:value={name}
    />
    <select
      class="field"
      aria-label="Group in the library"
      value={group}
      onchange={(event) => (chosen = event.currentTarget.value as LibraryColour['group'])}
    >
      {#each GROUPS as [value, label] (value)}<option {value}>{label}</option>{/each}
    </select>
    <button class="button">Keep</button>
  </div>
  <label class="mt-1 flex items-center gap-2 text-small">
    <input type="checkbox" class="h-4 w-4 accent-[var(--ink)]" bind:checked={everywhere} />
    For every shoot, not only this one
  </label>
  {#if told}<p class="text-small text-ink2" role="status">{told}</p>{/if}
</form>
