<script lang="ts">
  import type { Upload, Uploads } from './uploads.svelte';

  let { uploads }: { uploads: Uploads } = $props();

  function words(upload: Upload): string {
    if (upload.state === 'waiting') return 'waiting';
    if (upload.state === 'sending') return upload.reason || `${Math.round(upload.sent * 100)} %`;
    if (upload.state === 'reading') return 'reading';
    if (upload.state === 'added') return 'added';
    if (upload.state === 'already') return `already in this shoot as ${upload.title}`;
    return upload.reason;
  }
</script>

<section
  class="fixed right-4 bottom-[58px] z-30 w-[420px] border border-ink bg-raised shadow-lg"
  aria-label="Files being added"
>
  <header class="flex items-center justify-between border-b border-line px-3 py-1.5">
    <h2 class="font-semibold">
      {uploads.unfinished
        ? `${uploads.paused ? 'Paused, ' : 'Adding '}${uploads.unfinished} of ${uploads.list.length}`
        : 'Files added'}
    </h2>
    <span class="flex gap-2">
      {#if uploads.refused.length > 1}
        <button class="quiet" onclick={() => uploads.again(...uploads.refused)}
          >Try {uploads.refused.length} again</button
        >
      {/if}
      {#if uploads.unfinished}
        <button class="quiet" onclick={() => (uploads.paused ? uploads.goOn() : uploads.pause())}
          >{uploads.paused ? 'Go on' : 'Pause'}</button
        >
      {/if}
      <button class="quiet" onclick={() => uploads.clear()}>Clear finished</button>
    </span>
  </header>
  <ul class="max-h-[240px] overflow-y-auto py-1" aria-live="polite">
    {#each uploads.list as upload (upload.id)}
      <li class="px-3 py-1">
        <div class="flex items-center justify-between gap-3">
          <span class="truncate" title={upload.file.name}>{upload.file.name}</span>
          {#if upload.state === 'refused'}
            <button class="quiet shrink-0" onclick={() => uploads.again(upload)}>Try again</button>
          {:else if !upload.settled}
            <span class="flex shrink-0 items-center gap-2">
              {words(upload)}
              <button class="quiet" onclick={() => uploads.cancel(upload)}>Cancel</button>
            </span>
          {:else}
            <span class="shrink-0 text-ink2">{words(upload)}</span>
          {/if}
        </div>
        {#if upload.state === 'refused'}
          <p class="notched mt-0.5 w-fit bg-attention py-0.5 pr-2 text-inverse" role="alert">
            {upload.reason}
          </p>
        {:else if !upload.settled}
          <div class="mt-1 h-[3px] bg-faint">
            <div
              class="h-full bg-ink"
              style:width="{upload.state === 'reading' ? 100 : upload.sent * 100}%"
            ></div>
          </div>
        {/if}
      </li>
    {/each}
  </ul>
</section>
