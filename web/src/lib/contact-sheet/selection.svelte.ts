import { SvelteSet } from 'svelte/reactivity';

/** Which photos are chosen, as lists are chosen from everywhere. */
export class Selection {
  readonly ids = new SvelteSet<number>();
  /** Where a range begins, and where the keyboard is. */
  anchor: number | null = null;
  focus = $state<number | null>(null);

  /** order: of the photos that are shown. */
  constructor(readonly order: () => readonly number[]) {}

  get count(): number {
    return this.ids.size;
  }

  /** In the order in which they are shown; those that are not shown, after them. */
  get list(): number[] {
    const shown = this.order().filter((id) => this.ids.has(id));
    return [...shown, ...[...this.ids].filter((id) => !shown.includes(id))];
  }

  /** A click, or what the keyboard means by one. */
  pick(id: number, { range = false, more = false } = {}): void {
    this.focus = id;
    if (range && this.anchor !== null) {
      const order = this.order();
      const [a, b] = [order.indexOf(this.anchor), order.indexOf(id)].sort((x, y) => x - y);
      if (!more) this.ids.clear();
      if (a! >= 0) for (const each of order.slice(a, b! + 1)) this.ids.add(each);
      return;
    }
    this.anchor = id;
    if (more) {
      if (!this.ids.delete(id)) this.ids.add(id);
      return;
    }
    // The only one, clicked again, is let go.
    const alone = this.ids.size === 1 && this.ids.has(id);
    this.ids.clear();
    if (!alone) this.ids.add(id);
  }

  set(ids: Iterable<number>): void {
    this.ids.clear();
    for (const id of ids) this.ids.add(id);
  }

  all(): void {
    for (const id of this.order()) this.ids.add(id);
  }

  none(): void {
    this.ids.clear();
  }

  forget(ids: Iterable<number>): void {
    for (const id of ids) this.ids.delete(id);
  }
}
