<script lang="ts">
  interface Properties {
    label: string;
    placeholder: string;
    /** Letters that a name may have. */
    most: number;
    /** Whether it was kept: the name stays to be mended when not. */
    onkeep: (name: string) => Promise<boolean>;
  }
  /** Keep something under a name. */
  let { label, placeholder, most, onkeep }: Properties = $props();
  let name = $state('');

  async function keep(event: Event): Promise<void> {
    event.preventDefault();
    if (await onkeep(name)) name = '';
  }
</script>

<form class="mb-2 flex gap-1.5" onsubmit={keep}>
  <input
    class="field min-w-0 flex-1"
    aria-label={label}
    {placeholder}
    maxlength={most}
    required
    bind:value={name}
  />
  <button class="button">Keep</button>
</form>
