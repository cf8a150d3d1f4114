import { expect, it } from 'vitest';
import { LatestWins } from './latest-wins';

/** Work that is done when it is told to be. */
function held() {
  const begun: number[] = [];
  const ends: (() => void)[] = [];
  const latest = new LatestWins<number>((request) => {
    begun.push(request);
    return new Promise((resolve) => ends.push(resolve));
  });
  const end = async () => {
    ends.shift()?.();
    await new Promise((resolve) => setTimeout(resolve));
  };
  return { begun, latest, end };
}

it('runs one at a time, and of those asked for meanwhile the newest', async () => {
  const { begun, latest, end } = held();
  for (const request of [1, 2, 3, 4]) latest.want(request);
  expect(begun).toEqual([1]);
  expect(latest.busy).toBe(true);
  await end();
  expect(begun).toEqual([1, 4]);
  await end();
  expect(latest.busy).toBe(false);
  latest.want(5);
  expect(begun).toEqual([1, 4, 5]);
});
