<script lang="ts">
  import { setContext, type Snippet } from 'svelte';
  import type { Place } from './bench.svelte';

  /** Says where the stations within stand. */
  let { place, children }: { place: Place; children: Snippet } = $props();
  // A place does not change.
  // svelte-ignore state_referenced_locally
  setContext('place', place);
</script>

{@render children()}
