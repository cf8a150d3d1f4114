import type { Remedy, Sample, Vector, WashStroke } from '../api/types';
import { newId } from '../recipe/kinds';
import type { Editor } from '../studio/editor.svelte';

export type Wash = Extract<Remedy, { kind: 'wash' }>;
/** Towards a tone, or by light. */
export type Purpose = 'tone' | 'light';

export function isWash(remedy: Remedy | undefined): remedy is Wash {
  return remedy?.kind === 'wash';
}

const DIGITS_MS = 700; // within which two digits are one number

/** The strokes of the chosen wash, and the brush that paints them. */
export class Washing {
  /** Fractions of the long edge, shares of radius and strength. */
  brush = $state({ size: 0.08, feather: 0.8, flow: 1, opacity: 0.1, edges: false });
  purpose = $state<Purpose>('tone');
  tone = $state.raw<Sample['rgb'] | null>(null);
  stops = $state(0.3);
  reach = $state<WashStroke['reach']>('all');
  /** Whether the key is held that makes a click take a tone. */
  picking = $state(false);

  /** While a stroke is being painted: the wash without it, and what it goes by. */
  #painting: { before: Wash; id: string } | null = null;
  #typed: { text: string; at: number } = { text: '', at: 0 };

  constructor(private readonly editor: Editor) {}

  get wash(): Wash | undefined {
    return isWash(this.editor.remedy) ? this.editor.remedy : undefined;
  }

  get lastPoint(): WashStroke['points'][number] | undefined {
    return this.wash?.strokes.at(-1)?.points.at(-1);
  }

  /** Whether a stroke could be painted; else why not. */
  get missing(): string {
    if (!this.wash) return 'Add a wash first';
    if (this.editor.tool === 'wash' && this.purpose === 'tone' && !this.tone)
      return 'Take a tone first: hold its key and click, or choose one';
    return '';
  }

  /** Lay a stroke; not done: it is still growing. */
  paint(points: WashStroke['points'], erase: boolean, done = true): void {
    const wash = this.wash;
    if (!wash) return;
    this.#painting ??= { before: wash, id: newId() };
    const { before, id } = this.#painting;
    const toned = this.purpose === 'tone' && !erase;
    const stroke: WashStroke = {
      ...this.brush,
      opacity: erase ? 1 : this.brush.opacity,
      id,
      erase,
      points,
      tone: toned ? this.tone : null,
      stops: toned || erase ? 0 : this.stops,
      reach: toned || erase ? 'all' : this.reach,
    };
    if (done) this.#painting = null;
    this.editor.changeRemedy(() => ({ ...before, strokes: [...before.strokes, stroke] }), done);
  }

  change(id: string, change: (stroke: WashStroke) => WashStroke, done = true): void {
    this.#changeStrokes((all) => all.map((s) => (s.id === id ? change(s) : s)), done);
  }

  remove(id: string): void {
    this.#changeStrokes((all) => all.filter((s) => s.id !== id), true);
  }

  /** A digit typed while the brush is in the hand: 3 is 30 %, 3 and 5 are 35 %, 0 is all. */
  type(digit: string, now = performance.now()): void {
    const joined = now - this.#typed.at < DIGITS_MS && this.#typed.text.length === 1;
    const text = joined ? this.#typed.text + digit : digit;
    this.#typed = { text, at: now };
    const percent = text.length === 2 ? Number(text) : Number(text) * 10;
    this.brush.opacity = (percent || (text.length === 2 ? 1 : 100)) / 100;
  }

  /** The tone that a sample or the library gives. */
  take(tone: Sample['rgb']): void {
    this.tone = tone;
    this.purpose = 'tone';
    if (this.editor.tool === 'tone') this.editor.tool = 'wash';
  }

  #changeStrokes(change: (strokes: WashStroke[]) => WashStroke[], done: boolean): void {
    this.editor.changeRemedy((r) => (isWash(r) ? { ...r, strokes: change(r.strokes) } : r), done);
  }
}

/** Where a stroke lies, for pointing at it. */
export function middleOf({ points }: WashStroke): Vector {
  return points[Math.floor(points.length / 2)]?.[0] ?? [0, 0];
}
