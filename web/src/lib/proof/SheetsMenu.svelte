<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import { useStudio } from '../studio/studio.svelte';
  import TouchesDialog from './TouchesDialog.svelte';

  const studio = useStudio();
  let touching = $state(false);
  const address = $derived(`/api/photos/${studio.photo.id}/report`);
  const files = [
    ['pdf', 'Proof sheet as PDF'],
    ['json', 'Figures as JSON'],
    ['csv', 'Figures as CSV'],
  ] as const;
</script>

<DropdownMenu.Root>
  <DropdownMenu.Trigger class="quiet gap-1 text-ink2">
    Sheets<span aria-hidden="true">▾</span>
  </DropdownMenu.Trigger>
  <DropdownMenu.Portal>
    <DropdownMenu.Content class="menu" align="end" side="top" sideOffset={4}>
      {#if studio.cast}
        <DropdownMenu.Item class="menu-item" onSelect={() => (touching = true)}>
          What cast {studio.letter} touches
        </DropdownMenu.Item>
      {/if}
      <DropdownMenu.Item class="menu-item">
        {#snippet child({ props })}
          <a {...props} href="{address}.html" target="_blank">Proof sheet, to read</a>
        {/snippet}
      </DropdownMenu.Item>
      {#each files as [form, label] (form)}
        <DropdownMenu.Item class="menu-item">
          {#snippet child({ props })}
            <a {...props} href="{address}.{form}" download>{label}</a>
          {/snippet}
        </DropdownMenu.Item>
      {/each}
    </DropdownMenu.Content>
  </DropdownMenu.Portal>
</DropdownMenu.Root>
{#if studio.cast}<TouchesDialog bind:open={touching} />{/if}
