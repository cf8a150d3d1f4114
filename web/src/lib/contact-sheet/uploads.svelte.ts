import { ApiError, asked, csrfToken, readError, reasonOf, signedInAgain } from '../api/client';
import { pending } from '../api/pending.svelte';
import type { Added, Photo } from '../api/types';

export type UploadState = 'waiting' | 'sending' | 'reading' | 'added' | 'already' | 'refused';

/** One file on its way. sent: share 0..1. */
export class Upload {
  state = $state<UploadState>('waiting');
  sent = $state(0);
  reason = $state('');
  /** Of the photo that it became, or that was there before. */
  title = $state('');
  request: XMLHttpRequest | null = null;

  constructor(
    readonly file: File,
    readonly id: number,
  ) {}

  get settled(): boolean {
    return this.state === 'added' || this.state === 'already' || this.state === 'refused';
  }
}

const AT_ONCE = 3;
const BUSY = 503;
const LONGEST_MS = 5000;

/** Somebody changed their mind. */
class Cancelled extends Error {}

/** Uploads of shoots whose page has been left go on; whoever comes back sees them. */
const underWay = new Map<number, Uploads>();

/** Who wants to know what became of files. */
interface Told {
  added: (photo: Photo) => void;
  refused: () => void;
}

/** The queue of files dropped onto one shoot. */
export class Uploads {
  list = $state<Upload[]>([]);
  paused = $state(false);
  #next = 0;
  #active = 0;

  constructor(
    readonly shootId: number,
    public told: Told,
  ) {}

  /** Those that are under way on a shoot, or new ones. */
  static of(shootId: number, told: Told): Uploads {
    const uploads = underWay.get(shootId);
    if (!uploads) return new Uploads(shootId, told);
    uploads.told = told;
    return uploads;
  }

  get unfinished(): number {
    return this.list.filter((u) => !u.settled).length;
  }

  add(files: Iterable<File>): void {
    for (const file of files) this.list.push(new Upload(file, this.#next++));
    this.#start();
  }

  get refused(): Upload[] {
    return this.list.filter((u) => u.state === 'refused');
  }

  again(...uploads: Upload[]): void {
    for (const upload of uploads) {
      upload.state = 'waiting';
      upload.reason = '';
    }
    this.#start();
  }

  /** Begin no further file; what is on its way arrives. */
  pause(): void {
    this.paused = true;
  }

  goOn(): void {
    this.paused = false;
    this.#start();
  }

  /** It is not on the list any more: nothing was wrong with it. */
  cancel(upload: Upload): void {
    this.list = this.list.filter((one) => one.id !== upload.id);
    upload.request?.abort();
    this.#tell();
  }

  clear(): void {
    this.list = this.list.filter((u) => !u.settled);
  }

  #tell(): void {
    const { unfinished, shootId } = this;
    if (unfinished) {
      underWay.set(shootId, this);
      const text = unfinished === 1 ? '1 photo uploading' : `${unfinished} photos uploading`;
      pending.set(this, { text, href: `/shoots/${shootId}`, stuck: false });
    } else {
      underWay.delete(shootId);
      pending.drop(this);
    }
  }

  #start(): void {
    this.#tell();
    while (!this.paused && this.#active < AT_ONCE) {
      const upload = this.list.find((u) => u.state === 'waiting');
      if (!upload) return;
      upload.state = 'sending';
      this.#active += 1;
      void this.#send(upload).finally(() => {
        this.#active -= 1;
        this.#start();
      });
    }
  }

  async #send(upload: Upload): Promise<void> {
    try {
      const added = await this.#sent(upload);
      upload.state = added.already ? 'already' : 'added';
      upload.title = added.photo.title;
      if (!added.already) this.told.added(added.photo);
    } catch (error) {
      if (error instanceof Cancelled) return;
      this.#refuse(upload, reasonOf(error));
      this.told.refused();
    } finally {
      upload.request = null;
    }
  }

  #refuse(upload: Upload, reason: string): void {
    upload.state = 'refused';
    upload.reason = reason;
  }

  /** As often as it takes until a busy server has room for it, or somebody has signed in again. */
  async #sent(upload: Upload): Promise<Added> {
    for (;;) {
      const since = asked();
      try {
        return await this.#transfer(upload);
      } catch (error) {
        if (!(error instanceof ApiError)) throw error;
        const again = await signedInAgain(error.status, '/api/shoots', since);
        if (!again && error.status !== BUSY) throw error;
        upload.state = 'sending';
        upload.sent = 0;
        upload.reason = again ? '' : 'Server busy, retrying';
        if (!again) await new Promise((resolve) => setTimeout(resolve, this.#pause(upload)));
        if (!this.list.some((one) => one.id === upload.id)) throw new Cancelled();
      }
    }
  }

  #pause(upload: Upload): number {
    const after = 1000 * Number(upload.request?.getResponseHeader('Retry-After') ?? 1);
    return Math.min(after * (0.5 + Math.random()), LONGEST_MS);
  }

  /** fetch tells nothing while it sends; this older call does. */
  #transfer(upload: Upload): Promise<Added> {
    return new Promise((resolve, reject) => {
      const request = new XMLHttpRequest();
      upload.request = request;
      upload.sent = 0;
      request.upload.onprogress = (event) => (upload.sent = event.loaded / event.total);
      request.upload.onload = () => {
        upload.state = 'reading';
        upload.reason = '';
      };
      request.onload = () => {
        if (request.status === 200) resolve(JSON.parse(request.responseText) as Added);
        else void readError(request.status, request.responseText).then(reject);
      };
      request.onerror = () => reject(new Error('The connection was lost'));
      request.onabort = () => reject(new Cancelled());
      request.open('POST', `/api/shoots/${this.shootId}/photos`);
      request.setRequestHeader('X-CSRFToken', csrfToken());
      const form = new FormData();
      form.append('file', upload.file);
      request.send(form);
    });
  }
}
