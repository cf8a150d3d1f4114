import { beforeEach, describe, expect, it, vi } from 'vitest';
import { ApiError, call, onSignedOut } from './client';

const answer = (status: number, body: object) => new Response(JSON.stringify(body), { status });
const session = { path: { shoot_id: 1 } };

describe('a session that ended', () => {
  const fetch = vi.fn();

  beforeEach(() => {
    fetch.mockReset();
    vi.stubGlobal('fetch', fetch);
    vi.stubGlobal('document', { cookie: '' });
  });

  it('is begun again, and what was asked for is asked once more', async () => {
    const ask = vi.fn(async () => {});
    onSignedOut(ask);
    fetch.mockImplementationOnce(async () => answer(401, { detail: 'Please sign in' }));
    fetch.mockImplementationOnce(async () => answer(200, { id: 1 }));
    expect(await call('get', '/api/shoots/{shoot_id}', session)).toEqual({ id: 1 });
    expect([ask.mock.calls.length, fetch.mock.calls.length]).toEqual([1, 2]);
  });

  it('is not begun again for a wrong password, nor for other refusals', async () => {
    const ask = vi.fn(async () => {});
    onSignedOut(ask);
    fetch.mockImplementation(async () => answer(401, { detail: 'do not match' }));
    const body = { name: 'ida', password: 'wrong' };
    await expect(call('post', '/api/session', { body })).rejects.toThrow('do not match');
    fetch.mockImplementation(async () => answer(404, { detail: 'nothing here' }));
    await expect(call('get', '/api/shoots/{shoot_id}', session)).rejects.toThrow(ApiError);
    expect(ask).not.toHaveBeenCalled();
  });
});
