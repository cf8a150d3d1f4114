<script lang="ts">
  import { onMount } from 'svelte';
  import { ApiError, call, reasonOf } from '../api/client';
  import type { PhotoWithRecipe } from '../api/types';
  import { link } from '../router.svelte';
  import WorkScreen from './WorkScreen.svelte';

  let { photoId }: { photoId: number } = $props();
  let opened = $state.raw<PhotoWithRecipe | null>(null);
  let trouble = $state('');

  onMount(async () => {
    try {
      opened = await call('get', '/api/photos/{photo_id}', { path: { photo_id: photoId } });
      document.title = `${opened.photo.title} · Nubilis`;
    } catch (error) {
      const gone = error instanceof ApiError && error.status === 404;
      trouble = gone ? 'There is no such photo' : reasonOf(error);
    }
  });
</script>

{#if opened}
  <WorkScreen {opened} />
{:else if trouble}
  <main class="flex h-full flex-col items-center justify-center gap-4">
    <p class="text-lead" role="alert">{trouble}.</p>
    <a class="button tall" href="/" use:link>To the contact sheet</a>
  </main>
{/if}
