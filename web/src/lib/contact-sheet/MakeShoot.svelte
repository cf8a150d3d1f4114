<script lang="ts">
  import { call, reasonOf } from '../api/client';
  import { router } from '../router.svelte';

  let { onmade = () => {} }: { onmade?: () => void } = $props();
  let name = $state('');
  let reason = $state('');

  async function make(event: Event): Promise<void> {
    event.preventDefault();
    try {
      const shoot = await call('post', '/api/shoots', { body: { name } });
      onmade();
      router.go(`/shoots/${shoot.id}`);
    } catch (error) {
      reason = reasonOf(error);
    }
  }
</script>

<form class="flex flex-col gap-2" onsubmit={make}>
  <div class="flex gap-2">
    <input
      class="field min-h-[30px] w-[220px]"
      aria-label="Name of the new shoot"
      placeholder="Name"
      maxlength="120"
      required
      bind:value={name}
    />
    <button class="button strong tall">Make shoot</button>
  </div>
  {#if reason}<p role="alert" class="text-danger">{reason}</p>{/if}
</form>
