<script lang="ts">
  import { onMount } from 'svelte';
  import { reasonOf } from './lib/api/client';
  import { pending } from './lib/api/pending.svelte';
  import AccountPage from './lib/account/AccountPage.svelte';
  import AgreePage from './lib/agree/AgreePage.svelte';
  import BatchPage from './lib/batches/BatchPage.svelte';
  import ContactSheetPage from './lib/contact-sheet/ContactSheetPage.svelte';
  import HomePage from './lib/contact-sheet/HomePage.svelte';
  import GuidePage from './lib/guide/GuidePage.svelte';
  import ReferencesPage from './lib/references/ReferencesPage.svelte';
  import { room } from './lib/room/room.svelte';
  import { link, router } from './lib/router.svelte';
  import OwnPassword from './lib/session/OwnPassword.svelte';
  import SignIn from './lib/session/SignIn.svelte';
  import SignInAgain from './lib/session/SignInAgain.svelte';
  import { session } from './lib/session/session.svelte';
  import CameraPage from './lib/tether/CameraPage.svelte';
  import WorkPage from './lib/studio/WorkPage.svelte';

  let trouble = $state('');
  /** What is stuck where one is not. */
  const stuck = $derived(pending.stuck.filter((work) => work.href !== router.path));
  const shootId = $derived(router.path && router.id('shoots'));
  const agreeId = $derived(router.path && router.id('shoots', 'agree'));
  const cameraId = $derived(router.path && router.id('shoots', 'camera'));
  const batchId = $derived(router.path && router.word('batches'));
  const photoId = $derived(router.path && router.id('photos'));

  onMount(() => {
    room.apply();
    session.load().catch((error: unknown) => (trouble = reasonOf(error)));
  });
</script>

<svelte:window onbeforeunload={(event) => pending.any && event.preventDefault()} />

{#if trouble}
  <p class="p-8 text-lead" role="alert">{trouble}. Please reload the page.</p>
{:else if session.current && !session.current.user}
  <SignIn />
{:else if session.current?.to_change}
  <OwnPassword />
{:else if session.current}
  {#if photoId}
    {#key photoId}<WorkPage {photoId} />{/key}
  {:else if shootId}
    {#key shootId}<ContactSheetPage {shootId} />{/key}
  {:else if agreeId}
    {#key agreeId}<AgreePage shootId={agreeId} />{/key}
  {:else if cameraId}
    {#key cameraId}<CameraPage shootId={cameraId} />{/key}
  {:else if batchId}
    {#key batchId}<BatchPage {batchId} />{/key}
  {:else if router.path === '/account'}
    <AccountPage />
  {:else if router.path === '/references'}
    <ReferencesPage />
  {:else if router.path === '/guide'}
    <GuidePage />
  {:else}
    <HomePage />
  {/if}
  {#if stuck.length}
    <ul class="fixed bottom-3 left-3 z-40 flex flex-col gap-2" role="alert">
      {#each stuck as work (work.href)}
        <li class="notched flex items-center gap-3 bg-danger py-1.5 pr-3 text-inverse">
          {work.text}
          <a class="quiet underline" href={work.href} use:link>Open</a>
        </li>
      {/each}
    </ul>
  {/if}
{/if}
<SignInAgain />
