import { callForFile } from '../api/client';
import type { Box, Cast, Choice, Recipe } from '../api/types';
import { newId } from '../recipe/edit';
import type { Editor } from '../studio/editor.svelte';
import type { Finder } from './finder.svelte';
import { questions } from './questions.svelte';

/** One answer as it is shown: what it would make of the photo. */
export interface Answer {
  choice: Choice;
  casts: Cast[];
  whole: string;
  close: string;
}

const WIDE = 800; // pixels of the whole picture's long edge; enough for two by two on a large screen
const CLOSE = 480;

/** The finder's one question: which of a few treated pictures is right. */
export class Asking {
  open = $state(false);
  answers = $state.raw<Answer[]>([]);
  /** The photo as it is, beside which the answers stand. */
  untouched = $state.raw<Pick<Answer, 'whole' | 'close'> | null>(null);
  /** The answer that Enter takes. */
  at = $state(0);
  /** Another each time that pictures are asked for; none when nobody waits for them any more. */
  #showing: object | null = null;

  constructor(
    private readonly editor: Editor,
    private readonly finder: Finder,
    private readonly shootId: number,
  ) {}

  /** A photo was opened: while questions are answered one after another, its own is put at once, after another
   * look in the light of the answers. */
  async arrive(): Promise<void> {
    if (!questions.walking) return;
    await this.finder.start();
    if (!questions.walking) return;
    if (this.finder.choices.length) this.start();
    else questions.answered(this.editor.photo.id, this.shootId);
  }

  start(): void {
    this.open = true;
    this.at = 0;
    void this.editor.attempt(() => this.#show());
  }

  /** Later, perhaps: the question stays open. */
  leave(): void {
    this.#close();
    questions.stop();
  }

  async take(index = this.at): Promise<void> {
    const answer = this.answers[index];
    if (!answer) return;
    const { recipe } = this.editor;
    this.#close();
    this.editor.commit({ ...recipe, casts: [...recipe.casts, ...answer.casts], answered: true });
    this.editor.select(answer.casts[0]?.id ?? null);
    this.editor.tool = 'look';
    await this.#next();
  }

  async none(): Promise<void> {
    this.#close();
    this.editor.commit({ ...this.editor.recipe, answered: true });
    await this.#next();
  }

  /** Only when the answer is kept may the next photo be opened. */
  async #next(): Promise<void> {
    await this.editor.saver.settled();
    questions.answered(this.editor.photo.id, this.shootId);
  }

  async #show(): Promise<void> {
    const { recipe } = this.editor;
    const own = (this.#showing = {});
    const untouched = await this.#pictures(recipe);
    if (this.#showing !== own) return forget(untouched);
    this.untouched = untouched;
    for (const choice of this.finder.choices) {
      const found = await Promise.all(choice.findings.map((id) => this.finder.adopted({ id })));
      const casts = found.map((cast) => ({ ...cast, id: newId(), remedies: whole(cast) }));
      const pictures = await this.#pictures({ ...recipe, casts: [...recipe.casts, ...casts] });
      if (this.#showing !== own) return forget(pictures);
      this.answers = [...this.answers, { choice, casts, ...pictures }];
    }
  }

  async #pictures(recipe: Recipe): Promise<Pick<Answer, 'whole' | 'close'>> {
    const { width, height } = this.editor.photo;
    const long = Math.max(width, height);
    const whole = await this.#picture(recipe, Math.min(WIDE / long, 1), [
      0,
      0,
      width / long,
      height / long,
    ]);
    const box = (this.finder.survey?.close ?? [0, 0, 1, 1]) as Box;
    const scale = CLOSE / ((box[2] - box[0]) * long);
    return { whole, close: await this.#picture(recipe, Math.min(scale, 1), box) };
  }

  /** box: fractions of the long edge; scale: pixels of the picture for one of the photo. */
  async #picture(recipe: Recipe, scale: number, box: Box): Promise<string> {
    const { id, width, height } = this.editor.photo;
    const size: [number, number] = [Math.round(width * scale), Math.round(height * scale)];
    const long = Math.max(...size);
    const [x0, y0, x1, y1] = box.map((v) => Math.round(v * long)) as Box;
    const region: Box = [x0, y0, Math.min(x1, size[0]), Math.min(y1, size[1])];
    const path = { photo_id: id };
    const body = { recipe, size, region };
    const picture = await callForFile('/api/photos/{photo_id}/picture', { path, body });
    return URL.createObjectURL(picture);
  }

  #close(): void {
    this.#showing = null;
    for (const pictures of [...this.answers, ...(this.untouched ? [this.untouched] : [])])
      forget(pictures);
    this.answers = [];
    this.untouched = null;
    this.open = false;
  }
}

function forget({ whole, close }: Pick<Answer, 'whole' | 'close'>): void {
  URL.revokeObjectURL(whole);
  URL.revokeObjectURL(close);
}

/** What is judged is the whole treatment. */
function whole(cast: Cast): Cast['remedies'] {
  return cast.remedies.map((r) => ({ ...r, amount: 1 }));
}
