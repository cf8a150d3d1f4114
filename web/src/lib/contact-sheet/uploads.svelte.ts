import { csrfToken, readError, reasonOf } from '../api/client';
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
    readonly told: Told,
  ) {}

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

  cancel(upload: Upload): void {
    if (upload.request) upload.request.abort();
    else this.#refuse(upload, 'Cancelled');
  }

  clear(): void {
    this.list = this.list.filter((u) => !u.settled);
  }

  #start(): void {
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
      const added = await this.#transfer(upload);
      upload.state = added.already ? 'already' : 'added';
      upload.title = added.photo.title;
      if (!added.already) this.told.added(added.photo);
    } catch (error) {
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

  /** fetch tells nothing while it sends; this older call does. */
  #transfer(upload: Upload): Promise<Added> {
    return new Promise((resolve, reject) => {
      const request = new XMLHttpRequest();
      upload.request = request;
      upload.sent = 0;
      request.upload.onprogress = (event) => (upload.sent = event.loaded / event.total);
      request.upload.onload = () => (upload.state = 'reading');
      request.onload = () => {
        if (request.status === 200) resolve(JSON.parse(request.responseText) as Added);
        else void readError(request.status, request.responseText).then(reject);
      };
      request.onerror = () => reject(new Error('The connection was lost'));
      request.onabort = () => reject(new Error('Cancelled'));
      request.open('POST', `/api/shoots/${this.shootId}/photos`);
      request.setRequestHeader('X-CSRFToken', csrfToken());
      const form = new FormData();
      form.append('file', upload.file);
      request.send(form);
    });
  }
}
