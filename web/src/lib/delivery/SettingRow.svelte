<script lang="ts">
  import type { Snippet } from 'svelte';

  /** tall: more than one line, its label beside the first. */
  let {
    label,
    tall = false,
    children,
  }: { label: string; tall?: boolean; children: Snippet } = $props();
</script>

<div class="flex min-h-[26px] flex-wrap gap-x-4 gap-y-1.5 {tall ? 'items-start' : 'items-center'}">
  <span class="w-[64px] text-ink2 {tall ? 'pt-1' : ''}" aria-hidden="true">{label}</span>
  {@render children()}
</div>
