import { describe, expect, it } from 'vitest';
import { Newest } from './newest';

describe('the newest question', () => {
  it('is the only one whose answer counts, whichever comes last', async () => {
    const newest = new Newest();
    let first: (text: string) => void = () => {};
    const slow = newest.answer(new Promise<string>((resolve) => (first = resolve)));
    expect(await newest.answer(Promise.resolve('new'))).toBe('new');
    first('old');
    expect(await slow).toBeNull();
    const left = newest.answer(Promise.resolve('left'));
    newest.forget();
    expect(await left).toBeNull();
  });
});
