import { describe, expect, it } from 'vitest';
import { newRemedy } from '../recipe/kinds';
import { crossed, LEAST_APART, restsAt, shareOf, type Zones, ZONES } from './zones';

const resting = newRemedy('zones', [0.2, 0.2, 0.2]) as Zones;

describe('crossovers', () => {
  it('keep their order and their distance, the other one giving way', () => {
    const up = crossed(resting, 'low', 0.95);
    expect(up.low).toBeCloseTo(0.92);
    expect(up.high - up.low).toBeCloseTo(LEAST_APART);
    const down = crossed(resting, 'high', 0.1);
    expect(down.high).toBeCloseTo(0.1);
    expect(down.low).toBeCloseTo(0.02);
    expect(crossed(resting, 'high', 0)).toMatchObject({ low: 0, high: LEAST_APART });
  });
});

describe('shares', () => {
  it('sum to one everywhere and belong to their zone at its middle', () => {
    for (let light = 0; light <= 1; light += 0.05)
      expect(ZONES.reduce((sum, z) => sum + shareOf(resting, z, light), 0)).toBeCloseTo(1);
    expect(shareOf(resting, 'shadows', 0.1)).toBe(1);
    expect(shareOf(resting, 'lights', 0.9)).toBe(1);
    expect(shareOf(resting, 'mids', 0.55)).toBeCloseTo(1);
  });
});

describe('rest', () => {
  it('is told of each zone by itself', () => {
    const moved = { ...resting, mids_red: 0.02 };
    expect(ZONES.map((z) => restsAt(moved, z))).toEqual([true, false, true]);
  });
});
