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
  return /(?:^|; )csrftoken=([^;]*)/.exec(document.cookie)?.[1] ?? '';
}

export async function readError(status: number, text: string): Promise<ApiError> {
  try {
    const body = JSON.parse(text) as { detail?: string; revision?: number };
    return new ApiError(status, body.detail ?? `The server answered ${status}`, body.revision);
  } catch {
    return new ApiError(status, `The server answered ${status}`);
  }
}

async function send(
  method: string,
  path: string,
  body?: unknown,
  signal?: AbortSignal,
): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers: { 'Content-Type': 'application/json', 'X-CSRFToken': csrfToken() },
      body: body === undefined ? undefined : JSON.stringify(body),
      signal,
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new ApiError(OFFLINE, 'The server cannot be reached');
  }
  if (response.ok) return response;
  throw await readError(response.status, await response.text());
}

export async function call<T>(method: string, path: string, body?: unknown): Promise<T> {
  const response = await send(method, path, body);
  return (response.status === 204 ? undefined : await response.json()) as T;
}

export async function callForPicture(path: string, body: unknown): Promise<ImageBitmap> {
  const response = await send('POST', path, body);
  return createImageBitmap(await response.blob());
}

/** A file that the server makes, handed to the person under the name that the server gives it. */
export async function callForDownload(path: string, body: unknown): Promise<void> {
  const response = await send('POST', path, body);
  const named = /filename="([^"]*)"/.exec(response.headers.get('Content-Disposition') ?? '');
  const address = URL.createObjectURL(await response.blob());
  const link = document.createElement('a');
  link.href = address;
  link.download = named?.[1] ?? 'download';
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 60_000);
}

/** A form with a file. */
export async function callWithForm<T>(path: string, form: FormData): Promise<T> {
  const headers = { 'X-CSRFToken': csrfToken() };
  const response = await fetch(`/api${path}`, { method: 'POST', headers, body: form });
  if (!response.ok) throw await readError(response.status, await response.text());
  return (await response.json()) as T;
}

/** Lines of JSON as they come; each is handed on. Aborting the signal stops the work at the server. */
export async function callInLines(
  path: string,
  body: unknown,
  signal: AbortSignal,
  online: (line: unknown) => void,
): Promise<void> {
  const response = await send('POST', path, body, signal);
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
