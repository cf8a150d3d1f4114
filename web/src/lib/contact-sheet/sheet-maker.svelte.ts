import { call, reasonOf } from '../api/client';
import type { SheetsKnown } from '../api/types';

/** Makes the proof sheets of a shoot's treated photos, one after the other. */
export class SheetMaker {
  known = $state.raw<SheetsKnown | null>(null);
  /** Sheets made, while making. */
  done = $state<number | null>(null);
  trouble = $state('');
  #stopped = false;

  constructor(readonly shootId: number) {}

  async load(): Promise<void> {
    try {
      this.known = await call<SheetsKnown>('GET', `/shoots/${this.shootId}/sheets`);
    } catch (error) {
      this.trouble = reasonOf(error);
    }
  }

  async make(): Promise<void> {
    this.#stopped = false;
    this.trouble = '';
    this.done = 0;
    // A photo that cannot be proved does not keep the others from it.
    for (const { id, title } of this.known?.missing ?? []) {
      if (this.#stopped) break;
      try {
        await call('POST', `/photos/${id}/sheet`);
      } catch (error) {
        this.trouble = `${title}: ${reasonOf(error)}`;
      }
      this.done += 1;
    }
    this.done = null;
    await this.load();
  }

  cancel(): void {
    this.#stopped = true;
  }
}
