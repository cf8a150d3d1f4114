<script lang="ts">
  /** A number within bounds, or none where nothing is typed. */
  interface Props {
    label: string;
    value: number | null | undefined;
    least: number;
    most: number;
    placeholder: string;
    whole?: boolean;
    onchange: (value: number | null) => void;
  }
  let { label, value, least, most, placeholder, whole = true, onchange }: Props = $props();

  function take(text: string): void {
    const typed = Number(text.replace(',', '.'));
    if (!text.trim() || !typed) return onchange(null);
    const bounded = Math.min(Math.max(typed, least), most);
    onchange(whole ? Math.round(bounded) : bounded);
  }
</script>

<input
  class="field w-[58px] text-right"
  aria-label={label}
  inputmode={whole ? 'numeric' : 'decimal'}
  {placeholder}
  value={value ?? ''}
  onchange={(event) => take(event.currentTarget.value)}
/>
