import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Job } from '../api/types';
import { Following, worthTelling } from './following.svelte';

const call = vi.hoisted(() => vi.fn());
vi.mock('../api/client', async (original) => ({ ...(await original()), call }));

const job = (more: Partial<Job>): Job => ({
  id: 'one',
  person: 'demo',
  changed: 0,
  casts: 0,
  kind: 'look',
  state: 'running',
  over: false,
  photos: [],
  done: 0,
  total: 3,
  share: 0,
  troubles: [],
  error: '',
  cancelled: false,
  delivery: null,
  folder: '',
  files: 0,
  notes: [],
  batch: null,
  ...more,
});

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('window', globalThis);
  call.mockReset();
});

describe('following', () => {
  it('looks again until the work is over, and tells each step', async () => {
    const steps: number[] = [];
    const following = new Following(({ done }) => steps.push(done));
    call
      .mockResolvedValueOnce(job({ done: 1 }))
      .mockResolvedValueOnce(job({ done: 3, over: true, state: 'done' }));
    await following.follow(Promise.resolve(job({})));
    expect(following.running).toBe(true);
    await vi.advanceTimersByTimeAsync(5000);
    expect(steps).toEqual([0, 1, 3]);
    expect([following.running, following.reason]).toEqual([false, '']);
    expect(call).toHaveBeenCalledTimes(2);
  });

  it('goes on looking when the server cannot be reached for a while', async () => {
    const following = new Following();
    call
      .mockRejectedValueOnce(new Error('The server cannot be reached'))
      .mockResolvedValueOnce(job({ over: true, state: 'interrupted' }));
    await following.follow(Promise.resolve(job({})));
    await vi.advanceTimersByTimeAsync(400);
    expect(following.reason).toBe('The server cannot be reached');
    await vi.advanceTimersByTimeAsync(5000);
    expect(following.reason).toMatch('interrupted');
    expect(following.leftOff).toBe(true);
  });

  it('stops looking when it is closed, and leaves the work alone', async () => {
    const following = new Following();
    await following.follow(Promise.resolve(job({})));
    following.close();
    await vi.advanceTimersByTimeAsync(5000);
    expect(call).not.toHaveBeenCalled();
  });

  it('can stop the work, or take up what is left', async () => {
    const following = new Following();
    await following.follow(Promise.resolve(job({})));
    call.mockResolvedValueOnce(job({ cancelled: true }));
    await following.cancel();
    expect(call.mock.lastCall?.[0]).toBe('delete');
    call.mockResolvedValueOnce(job({ id: 'two' }));
    await following.takeUp();
    expect(call.mock.lastCall?.[1]).toMatch(/take-up$/);
    expect(following.job?.id).toBe('two');
  });

  it('tells what went wrong with a photo, or with all', async () => {
    const following = new Following();
    await following.follow(
      Promise.resolve(job({ troubles: ['One: lost'], over: true, state: 'done' })),
    );
    expect(following.reason).toBe('One: lost');
    await following.follow(Promise.resolve(job({ error: 'no', over: true, state: 'failed' })));
    expect([following.reason, following.leftOff]).toEqual(['no', true]);
    await following.follow(Promise.reject(new Error('refused')));
    expect(following.reason).toBe('refused');
  });

  it('is worth it for what is under way or was left off', () => {
    const jobs = [job({ kind: 'prove', state: 'interrupted' }), job({ state: 'done' })];
    expect(worthTelling(jobs, 'prove')).toBe(jobs[0]);
    expect(worthTelling(jobs, 'look')).toBeUndefined();
  });
});
