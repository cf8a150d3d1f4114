<script lang="ts">
  interface Props {
    label: string;
    value: number;
    least: number;
    most: number;
    step: number;
    unit?: string;
    width?: number;
    onchange: (value: number) => void;
  }
  let { label, value, least, most, step, unit = '', width = 54, onchange }: Props = $props();

  let typing = $state<string | null>(null);
  const decimals = $derived(step >= 1 ? 0 : step >= 0.1 ? 1 : step >= 0.01 ? 2 : 3);
  const shown = $derived(typing ?? `${value.toFixed(decimals)}${unit}`);

  function take(next: number): void {
    typing = null;
    const bounded = Math.min(Math.max(next, least), most);
    if (Number.isFinite(next) && bounded !== value) onchange(bounded);
  }

  function key(event: KeyboardEvent & { currentTarget: HTMLInputElement }): void {
    if (event.key === 'Enter') event.currentTarget.blur();
    if (event.key === 'Escape') {
      typing = null;
      event.currentTarget.blur();
    }
    if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
    event.preventDefault();
    const size = step * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1);
    take(value + (event.key === 'ArrowUp' ? size : -size));
  }
</script>

<input
  class="field px-1.5 text-right"
  style:width="{width}px"
  aria-label="{label}, number"
  inputmode="decimal"
  value={shown}
  onfocus={(event) => event.currentTarget.select()}
  onmousedown={(event) => {
    // The first click chooses the whole number, so that typing replaces it.
    if (document.activeElement === event.currentTarget) return;
    event.preventDefault();
    event.currentTarget.focus();
  }}
  oninput={(event) => (typing = event.currentTarget.value)}
  onblur={() => {
    if (typing !== null) take(parseFloat(typing.replace(',', '.').replace('−', '-')));
    typing = null;
  }}
  onkeydown={key}
/>
