import { expect, it } from 'vitest';
import { placesToMoveTo } from './moving';

it("photos are moved to one's own other shoots", () => {
  const shoots = [
    { id: 1, may: 'own' },
    { id: 2, may: 'own' },
    { id: 3, may: 'edit' },
    { id: 4, may: 'own' },
  ];
  expect(placesToMoveTo(shoots, 2).map((s) => s.id)).toEqual([1, 4]);
});
