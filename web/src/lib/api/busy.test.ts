import { describe, expect, it, vi } from 'vitest';
import { busy, inTurn } from './busy.svelte';

const later = (): Response => new Response('', { status: 503, headers: { 'Retry-After': '0' } });

describe('a server that has too much to do', () => {
  it('is asked again until it has a turn, and says that one waits meanwhile', async () => {
    const waiting: number[] = [];
    const ask = vi.fn(async () => {
      waiting.push(busy.waiting);
      return waiting.length < 3 ? later() : new Response('picture');
    });
    const response = await inTurn(ask);
    expect(await response.text()).toBe('picture');
    expect(waiting).toEqual([0, 1, 1]);
    expect(busy.waiting).toBe(0);
  });

  it('is not asked again once nobody wants the answer, nor for other refusals', async () => {
    const stop = new AbortController();
    const ask = vi.fn(async () => {
      stop.abort();
      return later();
    });
    expect((await inTurn(ask, stop.signal)).status).toBe(503);
    expect(ask).toHaveBeenCalledTimes(1);
    const broken = vi.fn(async () => new Response('', { status: 503 }));
    expect((await inTurn(broken)).status).toBe(503);
    expect(broken).toHaveBeenCalledTimes(1);
  });
});
