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

  it('is begun again once for all that was asked before', async () => {
    let signIn = () => {};
    const ask = vi.fn(() => new Promise<void>((resolve) => (signIn = resolve)));
    onSignedOut(ask);
    const answers: ((response: Response) => void)[] = [];
    fetch.mockImplementation(() => new Promise((resolve) => answers.push(resolve)));
    const both = [1, 2].map((shoot_id) =>
      call('get', '/api/shoots/{shoot_id}', { path: { shoot_id } }),
    );
    await vi.waitFor(() => expect(answers).toHaveLength(2));
    answers[0]!(answer(401, { detail: 'Please sign in' }));
    await vi.waitFor(() => expect(ask).toHaveBeenCalledTimes(1));
    signIn();
    await vi.waitFor(() => expect(answers).toHaveLength(3));
    answers[1]!(answer(401, { detail: 'Please sign in' })); // late
    await vi.waitFor(() => expect(answers).toHaveLength(4));
    answers[2]!(answer(200, { id: 1 }));
    answers[3]!(answer(200, { id: 2 }));
    expect(await Promise.all(both)).toEqual([{ id: 1 }, { id: 2 }]);
    expect(ask).toHaveBeenCalledTimes(1);
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
