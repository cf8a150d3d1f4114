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

it('goes on after work that failed', async () => {
  const begun: number[] = [];
  const latest = new LatestWins<number>(async (request) => {
    begun.push(request);
    if (request === 1) throw new Error('failed');
  });
  const failed = new Promise((resolve) => process.once('unhandledRejection', resolve));
  latest.want(1);
  await failed;
  expect(latest.busy).toBe(false);
  latest.want(2);
  expect(begun).toEqual([1, 2]);
});
