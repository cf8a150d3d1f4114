const hour = new Intl.DateTimeFormat('en-GB', { timeStyle: 'short' });
const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' });
const old = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });

/** A time as one says it: the hour of today, else the day, with its year where that is another. */
export function lately(time: string, now = new Date()): string {
  const at = new Date(time);
  if (at.toDateString() === now.toDateString()) return `at ${hour.format(at)}`;
  return (at.getFullYear() === now.getFullYear() ? day : old).format(at);
}
