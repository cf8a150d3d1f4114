import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Photo } from '../api/types';
import { pending } from '../api/pending.svelte';
import { Uploads } from './uploads.svelte';

/** Requests that end when they are told to. */
class Request {
  static all: Request[] = [];
  upload: { onprogress?: (event: object) => void; onload?: () => void } = {};
  onload?: () => void;
  onerror?: () => void;
  onabort?: () => void;
  status = 0;
  responseText = '';

  constructor() {
    Request.all.push(this);
  }

  open(): void {}
  setRequestHeader(): void {}
  send(): void {}
  getResponseHeader(): string {
    return '0';
  }
  abort(): void {
    this.onabort?.();
  }

  async answer(status: number, body: object): Promise<void> {
    this.status = status;
    this.responseText = JSON.stringify(body);
    this.upload.onload?.();
    this.onload?.();
    await new Promise((resolve) => setTimeout(resolve));
  }
}

const file = (name: string) => new File(['x'], name);
const quiet = { added: () => {}, refused: () => {} };
const added = (id: number, already = false) => ({ photo: { id }, already });

beforeEach(() => {
  Request.all = [];
  vi.stubGlobal('XMLHttpRequest', Request);
  vi.stubGlobal('document', { cookie: '' });
});

describe('uploads', () => {
  it('send three at a time, and the next when one is done', async () => {
    const photos: Photo[] = [];
    const uploads = new Uploads(1, { added: (photo) => photos.push(photo), refused: () => {} });
    uploads.add(['a', 'b', 'c', 'd', 'e'].map(file));
    expect(Request.all).toHaveLength(3);
    Request.all[0]!.upload.onprogress?.({ loaded: 1, total: 4 });
    expect([uploads.list[0]!.state, uploads.list[0]!.sent]).toEqual(['sending', 0.25]);
    await Request.all[1]!.answer(200, added(5));
    await Request.all[0]!.answer(200, added(6, true));
    expect(Request.all).toHaveLength(5);
    expect(uploads.list.map((u) => u.state)).toEqual([
      'already',
      'added',
      'sending',
      'sending',
      'sending',
    ]);
    expect(photos.map((p) => p.id)).toEqual([5]);
    expect(uploads.unfinished).toBe(3);
    uploads.clear();
    expect(uploads.list).toHaveLength(3);
  });

  it('pause, and go on', async () => {
    const uploads = new Uploads(1, quiet);
    uploads.pause();
    uploads.add(['a', 'b'].map(file));
    expect(Request.all).toHaveLength(0);
    uploads.goOn();
    expect(Request.all).toHaveLength(2);
    uploads.pause();
    uploads.add([file('c')]);
    await Request.all[0]!.answer(200, added(1));
    expect(Request.all).toHaveLength(2);
    expect(uploads.list[0]!.state).toBe('added');
  });

  it('tell why one was refused, and can be tried again', async () => {
    const uploads = new Uploads(1, quiet);
    uploads.add([file('a')]);
    await Request.all[0]!.answer(422, { detail: 'not a picture' });
    const [upload] = uploads.list;
    expect([upload!.state, upload!.reason]).toEqual(['refused', 'not a picture']);
    uploads.again(upload!);
    await Request.all[1]!.answer(200, added(1));
    expect(upload!.state).toBe('added');
  });

  it('can be cancelled, on their way and while they wait, and are not on the list then', async () => {
    const uploads = new Uploads(1, quiet);
    uploads.add(['a', 'b', 'c', 'd'].map(file));
    uploads.cancel(uploads.list[3]!);
    uploads.cancel(uploads.list[0]!);
    await new Promise((resolve) => setTimeout(resolve));
    expect(uploads.list.map((u) => u.file.name)).toEqual(['b', 'c']);
    expect(uploads.refused).toEqual([]);
    Request.all[1]!.onerror?.();
    await new Promise((resolve) => setTimeout(resolve));
    expect(uploads.list[0]!.reason).toBe('The connection was lost');
  });

  it('wait for a busy server, and are sent again', async () => {
    const uploads = new Uploads(1, quiet);
    uploads.add([file('a')]);
    await Request.all[0]!.answer(503, { detail: 'Many people are at work just now' });
    const [upload] = uploads.list;
    expect([upload!.state, uploads.refused.length]).toEqual(['sending', 0]);
    await vi.waitFor(() => expect(Request.all).toHaveLength(2));
    await Request.all[1]!.answer(200, added(1));
    expect(upload!.state).toBe('added');
  });

  it('go on when their page is left, and keep the application from being closed', async () => {
    const photos: number[] = [];
    const uploads = Uploads.of(7, quiet);
    uploads.add([file('a')]);
    expect(pending.has(uploads)).toBe(true);
    const back = Uploads.of(7, { ...quiet, added: (photo) => photos.push(photo.id) });
    expect(back).toBe(uploads);
    await Request.all[0]!.answer(200, added(5));
    expect([photos, pending.has(uploads)]).toEqual([[5], false]);
    expect(Uploads.of(7, quiet)).not.toBe(uploads);
  });
});
