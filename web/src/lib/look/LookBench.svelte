<script lang="ts">
  import { onDestroy } from 'svelte';
  import { useStudio } from '../studio/studio.svelte';
  import ColoursOut from './ColoursOut.svelte';
  import LookTiles from './LookTiles.svelte';
  import { Shelf } from './shelf.svelte';
  import ThisLook from './ThisLook.svelte';

  /** The stations while the look is chosen in the rail. */
  const studio = useStudio();
  const shelf = new Shelf(studio);
  void studio.attempt(() => shelf.load());
  onDestroy(() => shelf.close());
</script>

<LookTiles {shelf} />
<ThisLook />
<ColoursOut {shelf} />
