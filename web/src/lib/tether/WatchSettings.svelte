<script lang="ts">
  import type { Tether } from './tether.svelte';

  /** Whether the folder is watched, and what is laid on what arrives there. */
  let { tether }: { tether: Tether } = $props();
  const watch = $derived(tether.watch);
  const treated = $derived((tether.shoot?.photos ?? []).filter((p) => p.revision));
</script>

{#if watch}
  <section class="border-b border-line p-4" aria-label="Folder">
    <div class="flex items-center gap-2">
      <h2 class="flex-1 font-semibold">Folder</h2>
      {#if watch.watched}
        <button class="button" onclick={() => tether.end()}>Stop watching</button>
      {:else}
        <button class="button strong" onclick={() => tether.begin(null)}>Watch it</button>
      {/if}
    </div>
    <p class="mt-1.5 break-all select-text">{watch.folder}</p>
    <p class="mt-1 text-ink2">
      {watch.watched
        ? 'Watched: a file that has stopped growing is taken in and put aside there.'
        : 'Not watched. It lies in the server’s folder for what comes in.'}
    </p>
    {#if watch.watched}
      <label class="mt-3 block">
        <span class="text-ink2">Laid on what arrives</span>
        <select
          class="field mt-1 w-full"
          value={String(watch.source ?? '')}
          onchange={(event) => tether.begin(Number(event.currentTarget.value) || null)}
        >
          <option value="">nothing</option>
          {#each treated as photo (photo.id)}
            <option value={String(photo.id)}>the treatment of {photo.title}</option>
          {/each}
        </select>
      </label>
    {/if}
  </section>
{/if}
