/** Of answers that may overtake each other, those that a newer question made void are let go. */
export class Newest {
  #asked = 0;

  /** What was answered; null when something else was asked meanwhile. */
  async answer<T>(question: Promise<T>): Promise<T | null> {
    const own = ++this.#asked;
    const answer = await question;
    return own === this.#asked ? answer : null;
  }

  /** Nobody waits for what was asked before. */
  forget(): void {
    this.#asked += 1;
  }
}
