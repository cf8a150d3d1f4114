import { SvelteMap } from 'svelte/reactivity';

/** Work that leaving the application would lose. stuck: it does not go on by itself; href: where to see it. */
export interface PendingWork {
  text: string;
  href: string;
  stuck: boolean;
}

/** One register for the whole application: work goes on when its page has been left. */
class Pending {
  #work = new SvelteMap<object, PendingWork>();

  set(owner: object, work: PendingWork): void {
    this.#work.set(owner, work);
  }

  drop(owner: object): void {
    this.#work.delete(owner);
  }

  has(owner: object): boolean {
    return this.#work.has(owner);
  }

  get any(): boolean {
    return this.#work.size > 0;
  }

  get stuck(): PendingWork[] {
    return [...this.#work.values()].filter((work) => work.stuck);
  }
}

export const pending = new Pending();
