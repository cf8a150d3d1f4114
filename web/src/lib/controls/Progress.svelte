<script lang="ts">
  /** Work under way, and the way to stop it. */
  interface Props {
    label: string;
    text: string;
    done: number;
    total: number;
    oncancel: () => void;
  }
  let { label, text, done, total, oncancel }: Props = $props();
</script>

<span class="flex items-center gap-2" role="status">
  <span class="relative h-[28px] min-w-[100px] flex-1 border border-ink">
    <span
      class="absolute inset-y-0 left-0 bg-ink/25"
      style:width="{(done / Math.max(total, 1e-9)) * 100}%"
      role="progressbar"
      aria-label={label}
      aria-valuenow={done}
      aria-valuemax={total}
    ></span>
    <span class="flex h-full items-center justify-center px-4 whitespace-nowrap">{text}</span>
  </span>
  <button class="button tall" onclick={oncancel}>Cancel</button>
</span>
