<script lang="ts">
  /** Choose another password. onchoose: whether it was taken. */
  interface Props {
    word?: string;
    onchoose: (old: string, chosen: string) => Promise<boolean>;
  }
  let { word = 'Change the password', onchoose }: Props = $props();
  let old = $state('');
  let chosen = $state('');
  let busy = $state(false);

  async function choose(event: Event): Promise<void> {
    event.preventDefault();
    busy = true;
    if (await onchoose(old, chosen)) old = chosen = '';
    busy = false;
  }
</script>

<form class="flex flex-col gap-3" onsubmit={choose}>
  <label class="flex flex-col gap-1">
    Present password
    <input
      class="field min-h-[30px]"
      type="password"
      autocomplete="current-password"
      required
      bind:value={old}
    />
  </label>
  <label class="flex flex-col gap-1">
    New password
    <input
      class="field min-h-[30px]"
      type="password"
      autocomplete="new-password"
      minlength="8"
      required
      bind:value={chosen}
    />
    <span class="text-small text-ink2">Eight letters or more, and not one that everybody uses.</span
    >
  </label>
  <button class="button tall w-fit" disabled={busy}>{word}</button>
</form>
