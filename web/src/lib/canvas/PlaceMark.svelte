<script lang="ts">
  import type { Vector } from '../api/types';
  import type { Stage } from './stage.svelte';

  /** A spot on the photo with a word beside it. */
  interface Props {
    stage: Stage;
    at: Vector;
    text: string;
  }
  let { stage, at, text }: Props = $props();
  const spot = $derived(stage.toScreen(at));
</script>

<span class="spot" style:left="{spot.x}px" style:top="{spot.y}px"></span>
<span class="photo-word" style:left="{spot.x + 9}px" style:top="{spot.y - 9}px">{text}</span>

<style>
  .spot {
    position: absolute;
    pointer-events: none;
    width: 7px;
    height: 7px;
    border: 1px solid #161616;
    background: #f2f2f2;
    transform: translate(-50%, -50%);
  }
</style>
