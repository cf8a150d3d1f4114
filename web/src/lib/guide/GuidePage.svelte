<script lang="ts">
  import { COMMANDS, keyOf, shownKey } from '../help/commands';
  import RoomMenu from '../room/RoomMenu.svelte';
  import { link } from '../router.svelte';
  import notices from '../../../../NOTICES.md?raw';
  import { TASKS, TROUBLES } from './tasks';

  /** The file's own words, without its marks. */
  const paragraphs = notices
    .split(/\n+/)
    .slice(1)
    .map((line) => line.replace(/\*\*/g, '').replace(/`/g, ''))
    .filter(Boolean);

  document.title = 'Guide · Nubilis';
  const contents = [
    ...TASKS.map(({ id, title }): [string, string] => [id, title]),
    ['troubles', 'When something is off'] as [string, string],
    ['keyboard', 'By keyboard alone'] as [string, string],
    ['notices', 'Notices of third parties'] as [string, string],
  ];
</script>

<div class="flex h-full flex-col">
  <header class="flex h-12 shrink-0 items-center gap-4 border-b border-line px-4">
    <a href="/" use:link class="text-[16px] font-bold">Nubilis</a>
    <h1 class="text-lead">Guide</h1>
    <span class="flex-1"></span>
    <RoomMenu />
  </header>
  <div class="grid min-h-0 flex-1 grid-cols-[232px_minmax(0,1fr)]">
    <nav class="overflow-y-auto border-r border-line p-4" aria-label="Contents">
      <ol class="flex flex-col">
        {#each contents as [id, title] (id)}
          <li>
            <a
              class="flex min-h-[28px] items-center py-1 leading-tight hover:underline"
              href="#{id}">{title}</a
            >
          </li>
        {/each}
      </ol>
    </nav>
    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
    <main class="overflow-y-auto px-8 py-6" tabindex="0">
      <p class="max-w-[70ch] pb-4 text-lead">
        A cast is a colour that light has laid on something. Diagnose it, say what it should be,
        mask it, take it off, and see that nothing else has moved.
      </p>
      {#each TASKS as { id, title, steps, picture }, i (id)}
        <section
          {id}
          class="grid max-w-[1260px] grid-cols-[minmax(0,1fr)] gap-x-8 border-t border-line py-6 xl:grid-cols-[minmax(0,1fr)_minmax(0,620px)]"
        >
          <div>
            <h2 class="flex items-center gap-2 text-title font-semibold">
              <span
                class="flex h-6 w-6 items-center justify-center bg-ink text-small font-bold text-inverse"
                >{i + 1}</span
              >
              {title}
            </h2>
            <ul class="mt-3 flex max-w-[62ch] list-[square] flex-col gap-2 pl-5">
              {#each steps as step (step)}<li>{step}</li>{/each}
            </ul>
          </div>
          {#if picture}
            <img
              src={picture.src}
              alt={picture.alt}
              class="mt-3 max-w-full self-start border border-line xl:mt-0"
            />
          {/if}
        </section>
      {/each}
      <section id="troubles" class="border-t border-line py-6">
        <h2 class="text-title font-semibold">When something is off</h2>
        <dl class="mt-3 max-w-[90ch]">
          {#each TROUBLES as [trouble, help] (trouble)}
            <div
              class="grid grid-cols-[minmax(0,2fr)_minmax(0,3fr)] gap-4 border-b border-faint py-1.5"
            >
              <dt class="font-semibold">{trouble}</dt>
              <dd>{help}</dd>
            </div>
          {/each}
        </dl>
      </section>
      <section id="keyboard" class="border-t border-line py-6">
        <h2 class="text-title font-semibold">By keyboard alone</h2>
        <ul class="mt-3 flex max-w-[70ch] list-[square] flex-col gap-2 pl-5">
          <li>
            Tab goes round the screen; the photo is one stop. There, arrows move a pointer over it,
            with Shift farther and with Alt finely, and Enter clicks: it samples, paints a dab, sets
            a point.
          </li>
          <li>On a tag of the photo, arrows nudge the sample and Delete removes it.</li>
          <li>
            Every slider is a number field too, and the divider of a split turns and moves with
            arrows.
          </li>
        </ul>
        <dl class="mt-4 grid max-w-[90ch] grid-cols-2 gap-x-8">
          {#each COMMANDS as { id, text } (id)}
            <div class="flex min-h-[26px] items-center justify-between border-b border-faint">
              <dt>{text}</dt>
              <dd class="text-ink2">{shownKey(keyOf(id))}</dd>
            </div>
          {/each}
        </dl>
      </section>
      <section id="notices" class="border-t border-line py-6">
        <h2 class="text-title font-semibold">Notices of third parties</h2>
        <div class="mt-3 flex max-w-[90ch] flex-col gap-2">
          {#each paragraphs as paragraph (paragraph)}<p>{paragraph}</p>{/each}
        </div>
      </section>
    </main>
  </div>
</div>
