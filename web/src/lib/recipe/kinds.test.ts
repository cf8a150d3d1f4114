import { describe, expect, it, vi } from 'vitest';
import { KINDS } from '../../generated/kinds';
import type { Remedy } from '../api/types';
import { descriptorOf as partDescriptor, PARTS, titleOf } from '../mask/descriptors';
import { descriptorOf, REMEDIES } from '../remedy/descriptors';
import { newCast, newLent } from './edit';
import { newPart, newRemedy, type PartKind, type RemedyKind } from './kinds';

// There is no address bar here.
vi.mock('../router.svelte', () => ({ router: {} }));

const remedies = Object.keys(KINDS.remedies) as RemedyKind[];
const parts = Object.keys(KINDS.parts) as PartKind[];

describe('descriptors', () => {
  it('are there for every kind that the core has, and for no other', () => {
    expect(REMEDIES.map((r) => r.kind).sort()).toEqual([...remedies].sort());
    expect(PARTS.map((p) => p.kind).sort()).toEqual([...parts].sort());
  });

  it('speak of fields that the core has', () => {
    for (const kind of remedies) {
      const { settings, ticks } = descriptorOf({ kind } as Remedy);
      const resting: Record<string, unknown> = KINDS.remedies[kind].resting;
      for (const { name, least, most, resting: rests } of settings) {
        expect(resting[name], `${kind} ${name}`).toBeTypeOf('number');
        expect(least).toBeLessThanOrEqual(rests);
        expect(most).toBeGreaterThanOrEqual(rests);
      }
      for (const [name] of ticks ?? []) expect(resting[name]).toBeTypeOf('boolean');
    }
  });

  it('show something in the row of every part', () => {
    for (const kind of parts) {
      const part = newPart(kind, kind === 'guess' ? ({ of: 'sky' } as object) : {});
      const { controls, note } = partDescriptor(part);
      expect(Boolean(controls) || Boolean(note?.(part)), kind).toBe(true);
    }
  });

  it('call a borrowed mask by the letter of its cast, and an inverted one "not"', () => {
    const [one, two] = [newCast(), newCast()];
    const recipe = { casts: [one, two] } as Parameters<typeof titleOf>[1];
    expect(titleOf({ ...newLent(two.id), invert: true }, recipe)).toBe('not Mask of B');
    expect(titleOf(newPart('colour-key'), recipe)).toBe('Colour key');
  });
});

describe('a drag on the photo', () => {
  const drag = (kind: RemedyKind, by: [number, number], other = false) => {
    const remedy = newRemedy(kind, [0.2, 0.2, 0.2]);
    const { dragged, told } = descriptorOf(remedy);
    const after = dragged(remedy, by, other);
    return [after, told(after)] as const;
  };

  it('is an amount for most, within its bounds', () => {
    expect(drag('neutralise', [-100, 30])[0].amount).toBe(0.6);
    expect(drag('neutralise', [1000, 0])[0].amount).toBe(1.5);
    expect(drag('even-out', [1000, 0])[0].amount).toBe(1);
    expect(drag('neutralise', [-100, 0])[1]).toBe('Amount 60 %');
  });

  it('turns a shift, and with Shift lightens it', () => {
    const [turned, told] = drag('shift', [50, -25]);
    expect(turned).toMatchObject({ hue: 20, saturation: 0.1, luminance: 0 });
    expect(told).toBe('Hue +20°, saturation +10 %');
    expect(drag('shift', [50, -50], true)[0]).toMatchObject({ hue: 0, luminance: 0.1 });
    expect(drag('shift', [1e6, 1e6])[0]).toMatchObject({ hue: 180, saturation: -1 });
  });
});
