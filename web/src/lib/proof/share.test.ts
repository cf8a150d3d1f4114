import { describe, expect, it } from 'vitest';
import { shareText } from './share';

describe('a share', () => {
  it('is told from nothing', () => {
    expect([0, 0.0003, 0.003, 0.0994, 0.31].map(shareText)).toEqual([
      '0 %',
      'under 0.1 %',
      '0.3 %',
      '9.9 %',
      '31 %',
    ]);
  });
});
