import type { paths as Asked } from '../../generated/asked';
import type { paths } from '../../generated/api';
import { inTurn } from './busy.svelte';

/** A refusal by the server, with its own one-line reason. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly revision?: number,
  ) {
    super(message);
  }
}

/** The server could not be reached at all. */
export const OFFLINE = 0;

export function csrfToken(): string {
  return /(?:^|; )(?:__Host-)?csrftoken=([^;]*)/.exec(document.cookie)?.[1] ?? '';
}

export async function readError(status: number, text: string): Promise<ApiError> {
  try {
    const body = JSON.parse(text) as { detail?: string; revision?: number };
    return new ApiError(status, body.detail ?? `The server answered ${status}`, body.revision);
  } catch {
    return new ApiError(status, `The server answered ${status}`);
  }
}

type Method = 'get' | 'post' | 'put' | 'delete';

/** The addresses that can be asked in a way. */
type Address<M extends Method> = {
  [P in keyof paths]: paths[P] extends Record<M, { responses: unknown }> ? P : never;
}[keyof paths];

type Given<Name extends string, Value> = undefined extends Value
  ? { [N in Name]?: Value }
  : { [N in Name]: Value };
type PathOf<O> = O extends { parameters: { path: infer P } } ? Given<'path', P> : unknown;
type QueryOf<O> = O extends { parameters: { query?: infer Q } }
  ? { query?: Exclude<Q, undefined> }
  : unknown;
type BodyOf<O> = O extends { requestBody: { content: { 'application/json': infer B } } }
  ? { body: B }
  : unknown;

/** What an address wants: the names in it, a query, a body. Fields that have a default may be left out. */
export type Question<M extends Method, A extends Address<M>> = A extends keyof Asked
  ? PathOf<Asked[A][M]> & QueryOf<Asked[A][M]> & BodyOf<Asked[A][M]>
  : never;

/** What it answers, as JSON; nothing where there is nothing to say. */
export type Answer<M extends Method, A extends Address<M>> = paths[A][M] extends {
  responses: { 200: { content: { 'application/json': infer T } } };
}
  ? T
  : void;

interface Told {
  path?: Record<string, unknown>;
  query?: Record<string, unknown>;
  body?: unknown;
}

/** The address with its names filled in, as a link may use it too. */
function filled(address: string, { path, query }: Told): string {
  const whole = address.replace(/\{(\w+)\}/g, (_, name: string) =>
    encodeURIComponent(String(path?.[name])),
  );
  const asked = Object.entries(query ?? {}).filter(([, value]) => value != null);
  const search = new URLSearchParams(asked.map(([name, value]) => [name, String(value)]));
  return asked.length ? `${whole}?${search}` : whole;
}

/** Asks whoever is at the page to sign in again, and resolves when they have. */
let signIn: (() => Promise<void>) | null = null;
/** How often they have. */
let signIns = 0;

/** When something is asked, as far as signing in counts. */
export function asked(): number {
  return signIns;
}

export function onSignedOut(ask: () => Promise<void>): void {
  signIn = ask;
}

export const SIGNED_OUT = 401;

/** Whether what was refused is worth asking again, since whoever is at the page has signed in meanwhile. */
export async function signedInAgain(
  status: number,
  address: string,
  since: number,
): Promise<boolean> {
  // What signing in itself is refused for is told there.
  if (status !== SIGNED_OUT || !signIn || address.startsWith('/api/session')) return false;
  // What was asked before and is answered late is asked again without more ado.
  if (since === signIns) {
    await signIn();
    if (since === signIns) signIns += 1;
  }
  return true;
}

/** signal: stops what is on its way; stale: whether a busy server need not be asked again. */
interface Until {
  signal?: AbortSignal;
  stale?: () => boolean;
}

async function send(
  method: Method,
  address: string,
  told: Told,
  until: Until = {},
): Promise<Response> {
  for (;;) {
    const since = asked();
    const response = await sendOnce(method, address, told, until);
    if (response.ok) return response;
    const error = await readError(response.status, await response.text());
    if (!(await signedInAgain(response.status, address, since))) throw error;
  }
}

async function sendOnce(
  method: Method,
  address: string,
  told: Told,
  { signal, stale }: Until,
): Promise<Response> {
  try {
    return await inTurn(
      () =>
        fetch(filled(address, told), {
          method: method.toUpperCase(),
          headers: { 'Content-Type': 'application/json', 'X-CSRFToken': csrfToken() },
          body: told.body === undefined ? undefined : JSON.stringify(told.body),
          signal,
        }),
      signal,
      stale,
    );
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new ApiError(OFFLINE, 'The server cannot be reached');
  }
}

type Arguments<Q> = object extends Q ? [question?: Q] : [question: Q];

export async function call<M extends Method, A extends Address<M>>(
  method: M,
  address: A,
  ...[question]: Arguments<Question<M, A>>
): Promise<Answer<M, A>> {
  const response = await send(method, address, (question ?? {}) as Told);
  return (response.status === 204 ? undefined : await response.json()) as Answer<M, A>;
}

/** stale: whether something newer is wanted by now. */
export async function callForPicture<A extends Address<'post'>>(
  address: A,
  question: Question<'post', A>,
  stale?: () => boolean,
): Promise<ImageBitmap> {
  const response = await send('post', address, question as Told, { stale });
  return createImageBitmap(await response.blob());
}

/** A file that the server makes, as it is. */
export async function callForFile<A extends Address<'post'>>(
  address: A,
  question: Question<'post', A>,
): Promise<Blob> {
  return (await send('post', address, question as Told)).blob();
}

/** A file that the server makes, handed to the person under the name that the server gives it. */
export async function callForDownload<A extends Address<'post'>>(
  address: A,
  question: Question<'post', A>,
): Promise<void> {
  const response = await send('post', address, question as Told);
  const named = /filename="([^"]*)"/.exec(response.headers.get('Content-Disposition') ?? '');
  const made = URL.createObjectURL(await response.blob());
  download(made, named?.[1] ?? 'download');
  setTimeout(() => URL.revokeObjectURL(made), 60_000);
}

/** Hand a file to the person. */
export function download(address: string, name: string): void {
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
}

/** A form with a file. */
export async function callWithForm<A extends Address<'post'>>(
  address: A,
  path: Record<string, unknown>,
  form: FormData,
): Promise<Answer<'post', A>> {
  const headers = { 'X-CSRFToken': csrfToken() };
  const response = await fetch(filled(address, { path }), { method: 'POST', headers, body: form });
  if (!response.ok) throw await readError(response.status, await response.text());
  return (await response.json()) as Answer<'post', A>;
}

/** Lines of JSON as they come; each is handed on. Aborting the signal stops the work at the server. */
export async function callInLines<A extends Address<'post'>>(
  address: A,
  question: Question<'post', A>,
  signal: AbortSignal,
  online: (line: unknown) => void,
): Promise<void> {
  const response = await send('post', address, question as Told, { signal });
  const reader = response.body?.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (;;) {
    const { done, value } = (await reader?.read()) ?? { done: true, value: '' };
    const lines = (rest + (value ?? '')).split('\n');
    rest = lines.pop() ?? '';
    for (const line of lines) online(JSON.parse(line));
    if (done) return;
  }
}

/** What to tell a person about anything that was thrown. */
export function reasonOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
