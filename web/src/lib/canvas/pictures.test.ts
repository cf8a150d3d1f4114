import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Recipe } from '../api/types';
import { type Layer, Pictures, type Wanted } from './pictures';
import type { View } from './viewport';

const callForPicture = vi.hoisted(() => vi.fn());
vi.mock('../api/client', async (original) => ({ ...(await original()), callForPicture }));
const { ApiError } = await import('../api/client');

const whole: View = { size: [60, 40], region: [0, 0, 60, 40] };
const close: View = { size: [120, 80], region: [30, 20, 60, 40] };
const recipe = (): Recipe => ({ casts: [] }) as unknown as Recipe;

function wanted(more: Partial<Wanted> = {}): Wanted {
  return {
    recipe: recipe(),
    version: 1,
    view: whole,
    whole,
    show: 'now',
    said: { places: [] },
    ink: { opacity: 0.5 },
    draft: false,
    ...more,
  };
}

/** Pictures that are there, of those that were made: what is not closed may be drawn. */
const made: { open: boolean; show: string; view: View }[] = [];
const open = () => made.filter((m) => m.open).length;

function server(): void {
  callForPicture.mockImplementation(async (_: string, { body }: { body: Wanted & View }) => {
    const one = { open: true, show: body.show, view: { size: body.size, region: body.region } };
    made.push(one);
    return { close: () => (one.open = false) };
  });
}

function pictures(untouched = true) {
  const troubles: unknown[] = [];
  const drawn = vi.fn();
  const all = new Pictures(1, drawn, (error) => troubles.push(error), untouched);
  const slots = (): (Layer | null)[] => [all.now, all.nowWhole, all.before, all.beforeWhole];
  return { all, troubles, drawn, there: () => slots().filter(Boolean).length };
}

const asked = () => callForPicture.mock.calls.map(([, { body }]) => body);

beforeEach(() => {
  made.length = 0;
  callForPicture.mockReset();
  vi.useFakeTimers();
  server();
});

describe('the pictures of a stage', () => {
  it('are fetched one at a time, what is looked at first, and held behind when all is quiet', async () => {
    const { all, there } = pictures();
    all.want(wanted({ view: close }));
    await vi.advanceTimersByTimeAsync(10);
    expect(asked().map((b) => b.show)).toEqual(['now']);
    await vi.advanceTimersByTimeAsync(2000);
    expect(asked().map((b) => [b.show, b.size[0]])).toEqual([
      ['now', 120],
      ['before', 120],
      ['now', 60],
      ['before', 60],
    ]);
    expect([there(), open()]).toEqual([4, 4]);
  });

  it('leave the untouched photo alone where nobody draws it', async () => {
    const { all } = pictures(false);
    all.want(wanted({ view: close }));
    await vi.advanceTimersByTimeAsync(2000);
    expect(asked().map((b) => b.show)).toEqual(['now', 'now']);
  });

  it('are let go when others take their place, and all of them at the end', async () => {
    const { all } = pictures();
    for (let i = 0; i < 5; i++) {
      all.want(wanted({ view: close }));
      await vi.advanceTimersByTimeAsync(i % 2 ? 2000 : 50);
    }
    expect(open()).toBeLessThanOrEqual(4);
    all.close();
    expect(open()).toBe(0);
  });

  it('are not asked for any more once closed, and what comes late is let go', async () => {
    const { all, drawn } = pictures();
    let arrive: () => void = () => {};
    callForPicture.mockImplementationOnce(async () => {
      const one = { open: true, show: 'now', view: whole };
      made.push(one);
      await new Promise<void>((resolve) => (arrive = resolve));
      return { close: () => (one.open = false) };
    });
    all.want(wanted({ view: close }));
    await vi.advanceTimersByTimeAsync(0);
    all.close();
    arrive();
    await vi.advanceTimersByTimeAsync(5000);
    expect([asked().length, open(), drawn.mock.calls.length]).toEqual([1, 0, 0]);
  });

  it('are told apart by all that they depend on, also those behind', async () => {
    const { all } = pictures(false);
    const same = recipe();
    const shows: Partial<Wanted>[] = [
      { recipe: same, version: 3 },
      { recipe: same, version: 3, show: 'mask' as Wanted['show'] },
      { recipe: same, version: 3, show: 'mask' as Wanted['show'], cast: 'b' },
      { recipe: recipe(), version: 3 }, // another version of the photo, compared
    ];
    for (const [i, more] of shows.entries()) {
      all.want(wanted({ view: close, ...more }));
      await vi.advanceTimersByTimeAsync(2000);
      expect(asked()).toHaveLength(2 * (i + 1));
    }
    all.want(wanted({ view: close, ...shows.at(-1) }));
    await vi.advanceTimersByTimeAsync(2000);
    expect(asked()).toHaveLength(2 * shows.length);
  });

  it('that need not be made anew are those of the version that is wanted', async () => {
    const { all, drawn } = pictures(false);
    const same = recipe();
    all.want(wanted({ recipe: same, version: 3 }));
    await vi.advanceTimersByTimeAsync(1000);
    drawn.mockClear();
    all.want(wanted({ recipe: same, version: 4 }));
    await vi.advanceTimersByTimeAsync(1000);
    expect([asked().length, all.now?.version, drawn.mock.calls.length]).toEqual([1, 4, 1]);
  });

  it('in haste are made again when the handle rests', async () => {
    const { all } = pictures(false);
    const same = recipe();
    all.want(wanted({ recipe: same, draft: true }));
    await vi.advanceTimersByTimeAsync(1000);
    all.want(wanted({ recipe: same, draft: false }));
    await vi.advanceTimersByTimeAsync(1000);
    expect(asked().map((b) => b.draft)).toEqual([true, false]);
  });

  it('are asked for again after a lost connection, later each time', async () => {
    const { all, troubles } = pictures(false);
    callForPicture.mockRejectedValueOnce(new ApiError(0, 'The server cannot be reached'));
    callForPicture.mockRejectedValueOnce(new ApiError(500, 'Something went wrong'));
    all.want(wanted());
    await vi.advanceTimersByTimeAsync(500);
    expect([asked().length, troubles.length]).toEqual([1, 1]);
    await vi.advanceTimersByTimeAsync(5000);
    expect([asked().length, troubles.length, all.now !== null]).toEqual([3, 2, true]);
  });

  it('that are refused for good are asked for once, until something else is wanted', async () => {
    const { all, troubles } = pictures(false);
    callForPicture.mockRejectedValueOnce(new ApiError(422, 'a view may have 20 million pixels'));
    all.want(wanted());
    await vi.advanceTimersByTimeAsync(60_000);
    expect([asked().length, troubles.length]).toEqual([1, 1]);
    all.want(wanted());
    await vi.advanceTimersByTimeAsync(1000);
    expect([asked().length, all.now !== null]).toEqual([2, true]);
  });

  it('that were overtaken are nobody’s trouble', async () => {
    const { all, troubles } = pictures(false);
    callForPicture.mockImplementationOnce(async (_: string, __: object, stale: () => boolean) => {
      while (!stale()) await new Promise((resolve) => setTimeout(resolve, 10));
      throw new ApiError(503, 'Many people are at work just now');
    });
    all.want(wanted({ draft: true }));
    await vi.advanceTimersByTimeAsync(10);
    all.want(wanted());
    await vi.advanceTimersByTimeAsync(2000);
    expect([troubles, asked().length, all.now !== null]).toEqual([[], 2, true]);
  });
});
