import { describe, expect, it } from 'vitest';
import type { Recipe } from '../api/types';
import { changeOf } from './change-of';

const recipe = (casts: object[], more: object = {}) => ({ casts, ...more }) as unknown as Recipe;

describe('what a step changed', () => {
  it('is said by cast and part', () => {
    const a = { id: 'a', mask: { parts: [] }, pairs: [] };
    const b = { id: 'b', mask: { parts: [] }, pairs: [] };
    expect(changeOf(recipe([]), recipe([a]))).toBe('New cast A');
    const painted = { ...b, mask: { parts: [1] }, pairs: [2] };
    expect(changeOf(recipe([a, b]), recipe([a, painted]))).toBe('Cast B: samples, mask');
    expect(changeOf(recipe([a, b]), recipe([a]))).toBe('A cast removed');
    expect(changeOf(recipe([a, b]), recipe([]))).toBe('2 casts removed');
    expect(changeOf(recipe([], { base: 1 }), recipe([], { base: 2, look: 1 }))).toBe('Base. Look');
    expect(changeOf(recipe([a]), recipe([a]))).toBe('A change');
  });
});
