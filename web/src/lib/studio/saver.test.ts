import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Recipe, RecipeState } from '../api/types';
import { pending } from '../api/pending.svelte';
import { Saver } from './saver.svelte';

const call = vi.hoisted(() => vi.fn());
vi.mock('../api/client', async (original) => ({ ...(await original()), call }));
const { ApiError } = await import('../api/client');

const recipe = (name: string) => ({ casts: [{ name }] }) as unknown as Recipe;
const state = (revision: number, name: string): RecipeState => ({
  revision,
  recipe: recipe(name),
  can_undo: revision > 0,
  can_redo: false,
});

/** A server that keeps what it is given; refuse: what it says to the next saves instead. */
function server(refuse: Error[] = []) {
  let now = state(0, '');
  const saved: string[] = [];
  call.mockImplementation(async (method: string, address: string, question: any) => {
    if (method === 'get') return now;
    const error = refuse.shift();
    if (error) throw error;
    if (address.endsWith('/undo')) return (now = state(now.revision + 1, 'undone'));
    expect(question.body.revision).toBe(now.revision);
    saved.push(question.body.recipe.casts[0].name);
    return (now = { ...state(now.revision + 1, ''), recipe: question.body.recipe });
  });
  return { saved, theirs: (name: string) => (now = state(now.revision + 1, name)) };
}

beforeEach(() => {
  call.mockReset();
  vi.useFakeTimers({ shouldAdvanceTime: true });
});

describe('the saver', () => {
  it('saves nothing of a photo that is shared to be looked at', async () => {
    const saver = new Saver(7, { ...state(3, 'a'), can_undo: true }, true);
    saver.push(recipe('tried'));
    await saver.settled();
    expect([saver.status, saver.unsaved, saver.revision]).toEqual(['trying', false, 3]);
    expect([saver.canUndo, await saver.step('undo')]).toEqual([false, null]);
  });

  it('saves every step in order, each on top of the one before', async () => {
    const { saved } = server();
    const saver = new Saver(7, state(0, ''));
    for (const name of ['a', 'b', 'b', 'c']) saver.push(recipe(name));
    expect(saver.status).toBe('saving');
    await saver.settled();
    expect(saved).toEqual(['a', 'b', 'c']);
    expect([saver.status, saver.revision, saver.canUndo]).toEqual(['saved', 3, true]);
  });

  it('waits and tries again when the server cannot be reached, and drops nothing', async () => {
    const { saved } = server([new ApiError(0, 'The server cannot be reached')]);
    const saver = new Saver(7, state(0, ''));
    saver.push(recipe('a'));
    await vi.advanceTimersByTimeAsync(0);
    expect([saver.status, saver.reason]).toEqual(['waiting', 'The server cannot be reached']);
    saver.push(recipe('b'));
    await vi.advanceTimersByTimeAsync(3000);
    await saver.settled();
    expect(saved).toEqual(['a', 'b']);
  });

  it('says so when another window was faster, and lets the person choose', async () => {
    for (const [mine, last] of [
      [true, 'mine'],
      [false, 'undone'],
    ] as const) {
      const { saved, theirs } = server([new ApiError(409, 'changed elsewhere', 1)]);
      const saver = new Saver(7, state(0, ''));
      theirs('theirs');
      saver.push(recipe('mine'));
      await vi.advanceTimersByTimeAsync(0);
      expect(saver.status).toBe('conflict');
      await expect(saver.settled()).rejects.toThrow('changed elsewhere');
      const taken = mine ? await saver.overrule() : await saver.giveWay();
      expect(saved).toEqual(['mine']);
      if (!mine) expect((taken as RecipeState).recipe).toEqual(recipe(last));
      expect(saver.status).toBe('saved');
    }
  });

  it('sets aside what is refused, and goes on with what comes behind', async () => {
    const { saved } = server([new ApiError(422, 'the place lies outside the photo')]);
    const saver = new Saver(7, state(0, ''));
    saver.push(recipe('a'));
    await vi.advanceTimersByTimeAsync(0);
    expect([saver.status, saver.unsaved, saved]).toEqual(['refused', true, []]);
    expect(saver.refused.map((r) => r.reason)).toEqual(['the place lies outside the photo']);
    await expect(saver.settled()).rejects.toThrow('outside the photo');
    // A later step has all that the refused one had.
    saver.push(recipe('b'));
    await saver.settled();
    expect([saver.status, saver.refused, saved]).toEqual(['saved', [], ['b']]);
  });

  it('tries a refused step again, or does without it', async () => {
    const { saved } = server([new ApiError(422, 'no'), new ApiError(422, 'still no')]);
    const saver = new Saver(7, state(0, ''));
    saver.push(recipe('a'));
    await vi.advanceTimersByTimeAsync(0);
    saver.tryAgain(saver.refused[0]!);
    await vi.advanceTimersByTimeAsync(0);
    expect(saver.refused.map((r) => r.reason)).toEqual(['still no']);
    saver.dropRefused();
    expect([saver.status, saver.unsaved, saver.refused]).toEqual(['saved', false, []]);
    saver.push(recipe('a'));
    await saver.settled();
    expect(saved).toEqual(['a']);
  });

  it('goes on when its page is left, and is found again while anything is unsaved', async () => {
    const { saved } = server([new ApiError(0, 'The server cannot be reached')]);
    const saver = new Saver(8, state(0, ''), false, 'Curtain call');
    expect([Saver.leftOf(8), pending.any]).toEqual([undefined, false]);
    saver.push(recipe('a'));
    expect([Saver.leftOf(8), pending.any]).toEqual([saver, true]);
    await vi.advanceTimersByTimeAsync(3000);
    await saver.settled();
    await vi.advanceTimersByTimeAsync(0);
    expect([saved, Saver.leftOf(8), pending.any]).toEqual([['a'], undefined, false]);
  });

  it('says where it is stuck', async () => {
    server([new ApiError(409, 'changed elsewhere', 1)]);
    const saver = new Saver(9, state(0, ''), false, 'Curtain call');
    saver.push(recipe('a'));
    await vi.advanceTimersByTimeAsync(0);
    expect(pending.stuck).toEqual([
      { text: 'Not saved on Curtain call', href: '/photos/9', stuck: true },
    ]);
    expect(saver.newest).toEqual(recipe('a'));
    await saver.overrule();
    await vi.advanceTimersByTimeAsync(0);
    expect(pending.stuck).toEqual([]);
  });

  it('takes steps asked for in quick succession one after another, after what is to be saved', async () => {
    const { saved } = server();
    const saver = new Saver(7, state(0, ''));
    saver.push(recipe('a'));
    const steps = await Promise.all([saver.step('undo'), saver.step('undo'), saver.step('redo')]);
    expect(saved).toEqual(['a']);
    expect(steps.map((s) => s?.revision ?? null)).toEqual([2, 3, null]);
  });
});
