<script lang="ts">
  /** The browser's own choice of files, opened by a button that looks as it likes. */
  interface Props {
    label: string;
    accept: string;
    multiple?: boolean;
    onpick: (files: File[]) => void;
  }
  let { label, accept, multiple = false, onpick }: Props = $props();
  let input: HTMLInputElement;

  export function open(): void {
    input.click();
  }

  function picked(): void {
    const files = [...(input.files ?? [])];
    // The same file may be chosen again.
    input.value = '';
    if (files.length) onpick(files);
  }
</script>

<input
  bind:this={input}
  type="file"
  class="hidden"
  {multiple}
  {accept}
  aria-label={label}
  onchange={picked}
/>
