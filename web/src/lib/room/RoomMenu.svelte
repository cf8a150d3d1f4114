<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import { reasonOf } from '../api/client';
  import MenuChoice from '../controls/MenuChoice.svelte';
  import { router } from '../router.svelte';
  import { session } from '../session/session.svelte';
  import { room, type Room, type Surround } from './room.svelte';

  const rooms: [Room, string][] = [
    ['day', 'Day bench'],
    ['night', 'Night bench'],
  ];
  const surrounds: [Surround, string][] = [
    ['light', 'Light surround'],
    ['mid', 'Mid-grey surround'],
    ['dark', 'Dark surround'],
  ];

  let trouble = $state('');

  async function signOut(): Promise<void> {
    trouble = '';
    try {
      await session.signOut();
      router.go('/', true);
    } catch (error) {
      trouble = reasonOf(error);
    }
  }
</script>

<DropdownMenu.Root>
  <DropdownMenu.Trigger class="quiet gap-1.5">
    Room <span class="text-ink2" aria-hidden="true">▾</span>
  </DropdownMenu.Trigger>
  <DropdownMenu.Portal>
    <DropdownMenu.Content class="menu" align="end" sideOffset={4}>
      <MenuChoice
        value={room.settings.room}
        choices={rooms}
        onchoose={(r) => room.set({ room: r })}
      />
      <MenuChoice
        value={room.settings.surround}
        choices={surrounds}
        onchoose={(surround) => room.set({ surround })}
      />
      <DropdownMenu.Item class="menu-item" onSelect={() => router.go('/account')}>
        Account <span class="text-ink2">{session.current?.user}</span>
      </DropdownMenu.Item>
      <DropdownMenu.Item class="menu-item" onSelect={signOut}>Sign out</DropdownMenu.Item>
    </DropdownMenu.Content>
  </DropdownMenu.Portal>
</DropdownMenu.Root>
{#if trouble}
  <p
    class="notched fixed top-14 right-4 z-50 flex items-center gap-3 bg-attention py-1.5 pr-3 text-inverse"
    role="alert"
  >
    {trouble}
    <button class="quiet" aria-label="Close this notice" onclick={() => (trouble = '')}>×</button>
  </p>
{/if}
