import { describe, expect, it } from 'vitest';
import type { Holds } from '../api/types';
import { inWords } from './holds';

const holds = (more: Partial<Holds>): Holds => ({
  shoots: 1,
  photos: 0,
  treated: 0,
  binned: 0,
  people: 0,
  size_bytes: 0,
  ...more,
});

describe('what a shoot or an account holds', () => {
  it('is said in words, one of each and several', () => {
    expect(inWords(holds({}))).toBe('0 photos.');
    expect(inWords(holds({ photos: 1, size_bytes: 2_140_000 }))).toBe('1 photo, 2.1 MB.');
    expect(inWords(holds({ photos: 12, treated: 3, people: 1, size_bytes: 45e6 }))).toBe(
      '12 photos, 3 of them treated, 45 MB. Shared with 1 person.',
    );
    expect(inWords(holds({ shoots: 2, photos: 2, people: 2, size_bytes: 10 }))).toBe(
      '2 shoots, 2 photos, less than 1 MB. Shared with 2 people.',
    );
  });
});
