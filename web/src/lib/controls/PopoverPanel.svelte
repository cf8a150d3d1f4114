<script lang="ts">
  import { Popover } from 'bits-ui';
  import type { Snippet } from 'svelte';

  /** A button, and a panel that it opens next to it. */
  interface Props {
    label: string;
    button: Snippet;
    children: Snippet;
    open?: boolean;
    /** Classes of the button, and of the panel. */
    look?: string;
    room?: string;
    title?: string;
    /** What the button is called where its own words do not say it. */
    name?: string;
    pressed?: boolean;
    side?: 'top' | 'bottom';
    onopen?: () => void;
  }
  let {
    label,
    button,
    children,
    open = $bindable(false),
    look = 'button tall',
    room = '',
    title,
    name,
    pressed,
    side = 'bottom',
    onopen,
  }: Props = $props();
</script>

<Popover.Root bind:open onOpenChange={(opened) => opened && onopen?.()}>
  <Popover.Trigger class={look} {title} aria-label={name} aria-pressed={pressed}>
    {@render button()}
  </Popover.Trigger>
  <Popover.Portal>
    <Popover.Content
      role="dialog"
      class="z-30 border border-ink bg-raised p-3 {room}"
      align="end"
      {side}
      sideOffset={6}
      aria-label={label}
    >
      {@render children()}
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
