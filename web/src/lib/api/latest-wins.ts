/**
 * Runs one request at a time; of those asked for meanwhile only the newest is run next.
 * So a dragged handle never queues up work that nobody will see.
 */
export class LatestWins<Request> {
  #running = false;
  #next: Request | undefined;

  constructor(readonly run: (request: Request) => Promise<void>) {}

  get busy(): boolean {
    return this.#running;
  }

  want(request: Request): void {
    this.#next = request;
    if (!this.#running) void this.#drain();
  }

  async #drain(): Promise<void> {
    this.#running = true;
    try {
      while (this.#next !== undefined) {
        const request = this.#next;
        this.#next = undefined;
        await this.run(request);
      }
    } finally {
      this.#running = false;
    }
  }
}
