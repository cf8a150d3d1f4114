<script lang="ts">
  import type { LibraryColour, LibraryEntry, ShootEntry } from '../api/types';
  import { swatch } from '../instruments/swatch';
  import { GROUPS } from './library.svelte';

  interface Props {
    entry: LibraryEntry;
    shoots: ShootEntry[];
    onchange: (to: Partial<LibraryColour>, shoot: number | null) => void;
    onremove: () => void;
  }
  let { entry, shoots, onchange, onremove }: Props = $props();

  function rename(field: HTMLInputElement): void {
    const name = field.value.trim();
    if (!name) field.value = entry.name;
    else if (name !== entry.name) onchange({ name }, entry.shoot);
  }
</script>

<article class="flex bg-raised" aria-label={entry.name}>
  <span class="w-20 shrink-0" style:background={swatch(entry.colour)}></span>
  <div class="flex min-w-0 flex-1 flex-col gap-1 p-2">
    <input
      class="w-full bg-transparent px-1 font-semibold hover:bg-field focus:bg-field"
      aria-label="Name of {entry.name}"
      value={entry.name}
      maxlength="80"
      onkeydown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      onblur={(event) => rename(event.currentTarget)}
    />
    <span class="px-1 text-small text-ink2">
      {entry.colour.lab.map((v) => v.toFixed(1)).join(' ')}
      {#if entry.note}· {entry.note}{/if}
    </span>
    <div class="flex items-center gap-1.5">
      <select
        class="field"
        aria-label="Group of {entry.name}"
        value={entry.group}
        onchange={(event) =>
          onchange({ group: event.currentTarget.value as LibraryColour['group'] }, entry.shoot)}
      >
        {#each GROUPS as [value, label] (value)}<option {value}>{label}</option>{/each}
      </select>
      <select
        class="field min-w-0 flex-1"
        aria-label="Shoot of {entry.name}"
        value={entry.shoot ?? ''}
        onchange={(event) => onchange({}, Number(event.currentTarget.value) || null)}
      >
        <option value="">Every shoot</option>
        {#each shoots as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
      </select>
      <button class="quiet" aria-label="Remove {entry.name}" onclick={onremove}>×</button>
    </div>
  </div>
</article>
