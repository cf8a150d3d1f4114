<script lang="ts">
  import { reasonOf } from '../api/client';
  import { session } from './session.svelte';

  let name = $state('');
  let password = $state('');
  let reason = $state('');
  let busy = $state(false);

  async function attempt(way: () => Promise<void>): Promise<void> {
    busy = true;
    reason = '';
    try {
      await way();
    } catch (error) {
      reason = reasonOf(error);
    } finally {
      busy = false;
    }
  }
</script>

<main class="grid h-full grid-cols-1 md:grid-cols-[1fr_440px]">
  <div class="hidden items-center justify-center bg-surround md:flex" aria-hidden="true">
    <svg viewBox="-110 -110 220 220" class="w-[min(56vh,60%)]" fill="none">
      <circle r="100" stroke="#161616" stroke-opacity="0.55" />
      <circle r="50" stroke="#161616" stroke-opacity="0.25" />
      <path d="M-100 0H100M0 -100V100" stroke="#161616" stroke-opacity="0.25" />
      <path d="M58 -46L3 -2" stroke="#f2f2f2" stroke-width="2.5" />
      <circle cx="58" cy="-46" r="7" fill="#777777" stroke="#f2f2f2" stroke-width="3" />
      <circle cx="0" cy="0" r="8" fill="#f2f2f2" />
    </svg>
  </div>
  <div class="flex flex-col justify-center gap-6 bg-panel px-12">
    <div>
      <h1 class="text-[28px] font-semibold tracking-tight">Nubilis</h1>
      <p class="mt-1 text-lead text-ink2">Takes colour casts off, and nothing else.</p>
    </div>
    {#if session.current?.demo}
      <button
        class="button strong min-h-[40px] text-lead"
        disabled={busy}
        onclick={() => attempt(() => session.signInToDemo())}
      >
        Open the demo shoot
      </button>
      <p class="-mb-3 text-ink2">or with an account:</p>
    {/if}
    <form
      class="flex flex-col gap-3"
      onsubmit={(event) => {
        event.preventDefault();
        void attempt(() => session.signIn(name, password));
      }}
    >
      <label class="flex flex-col gap-1">
        Name
        <input class="field min-h-[34px]" autocomplete="username" required bind:value={name} />
      </label>
      <label class="flex flex-col gap-1">
        Password
        <input
          class="field min-h-[34px]"
          type="password"
          autocomplete="current-password"
          required
          bind:value={password}
        />
      </label>
      <div class="mt-1 flex items-center gap-4">
        <button class="button tall min-h-[34px]" disabled={busy}>Sign in</button>
        {#if reason}<p role="alert" class="notched bg-danger py-1 pr-3 text-inverse">
            {reason}
          </p>{/if}
      </div>
    </form>
  </div>
</main>
