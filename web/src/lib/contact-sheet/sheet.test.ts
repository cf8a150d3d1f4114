import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Photo } from '../api/types';
import { Sheet } from './sheet.svelte';

const call = vi.hoisted(() => vi.fn());
vi.mock('../api/client', async (original) => ({ ...(await original()), call }));

/** A shoot of raw files, of which so many are still to be developed. */
let left = 0;
const photos = (): Photo[] =>
  Array.from({ length: 400 }, (_, id) => ({ id, preview: id < left, title: `${id}` }) as Photo);
const asked = (): string[] => call.mock.calls.map(([, address]) => address as string);

beforeEach(() => {
  vi.useFakeTimers();
  call.mockReset();
  call.mockImplementation(async (_: string, address: string) => {
    if (address === '/api/shoots/{shoot_id}') return { id: 1, may: 'own', photos: photos() };
    return [];
  });
});

describe('a sheet of raw files', () => {
  it('asks once for the whole shoot, less and less often while nothing changes', async () => {
    left = 400;
    const sheet = new Sheet(1);
    await sheet.load();
    call.mockClear();
    await vi.advanceTimersByTimeAsync(60_000);
    expect(new Set(asked())).toEqual(new Set(['/api/shoots/{shoot_id}']));
    // After 1.5, 3, 6, 12 and 24 seconds.
    expect(asked().length).toBe(5);
    left = 100;
    await vi.advanceTimersByTimeAsync(10_600);
    expect(sheet.shoot?.photos.filter((p) => p.preview).length).toBe(100);
    call.mockClear();
    await vi.advanceTimersByTimeAsync(1600);
    expect(asked().length).toBe(1);
    left = 0;
    await vi.advanceTimersByTimeAsync(60_000);
    call.mockClear();
    await vi.advanceTimersByTimeAsync(120_000);
    expect(asked()).toEqual([]);
  });

  it('asks no more once its page is left', async () => {
    left = 3;
    const sheet = new Sheet(1);
    await sheet.load();
    sheet.close();
    call.mockClear();
    await vi.advanceTimersByTimeAsync(60_000);
    expect(asked()).toEqual([]);
  });
});
