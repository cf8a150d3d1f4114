import { beforeEach, expect, it, vi } from 'vitest';
import type { Recipe, Said } from '../api/types';
import { Finder, QUIET } from './finder.svelte';

const callInLines = vi.hoisted(() => vi.fn());
vi.mock('../api/client', async (original) => ({ ...(await original()), callInLines }));

type Online = (line: unknown) => void;
/** What was asked, each answered when told to be. */
let asked: { said: Said; answer: () => Promise<void> }[];
const settle = () => new Promise((resolve) => setTimeout(resolve));
const towards = (direction: number): Partial<Said> => ({ direction: [direction, 0] });

beforeEach(() => {
  asked = [];
  callInLines.mockReset();
  callInLines.mockImplementation(
    (_address: string, { body }: { body: { said: Said } }, _signal: AbortSignal, on: Online) =>
      new Promise<void>((resolve) => {
        const answer = async () => {
          on({ survey: { said: body.said, findings: [] } });
          resolve();
          await settle();
        };
        asked.push({ said: body.said, answer });
      }),
  );
});

function finder(): Finder {
  return new Finder(1, () => ({ casts: [], dismissed: [] }) as unknown as Recipe);
}

it('a renewed look that answers late does not undo a newer word', async () => {
  const one = finder();
  void one.start();
  await asked[0]?.answer();
  one.renew();
  await settle();
  void one.start(towards(1));
  await asked[2]?.answer();
  await asked[1]?.answer();
  expect(one.said.direction).toEqual([1, 0]);
});

it('a look is renewed with the newest word, after the one that is under way', async () => {
  const one = finder();
  void one.start();
  await asked[0]?.answer();
  void one.start(towards(1));
  one.renew();
  await settle();
  expect(asked).toHaveLength(2);
  await asked[1]?.answer();
  expect(asked[2]?.said).toEqual({ ...QUIET, direction: [1, 0] });
  await asked[2]?.answer();
  expect(one.said.direction).toEqual([1, 0]);
});
