/** When the dialogue opens, the chosen format has the keys. */
export function formatFirst(event: Event): void {
  event.preventDefault();
  const chosen = '[role=dialog] [role=radio][data-state=checked]';
  document.querySelector<HTMLElement>(chosen)?.focus();
}
