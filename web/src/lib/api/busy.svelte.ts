const BUSY = 503;
const TRIES = 40;
const LONGEST_MS = 5000;
const LOOK_MS = 100;

/** How many questions wait because the server has too much to do. */
class Busy {
  waiting = $state(0);
}
export const busy = new Busy();

/** Ask again for as long as the server says that it has too much to do just now: nothing is lost meanwhile.
 * stale: whether nobody waits for the answer any more, since something newer is wanted. */
export async function inTurn(
  ask: () => Promise<Response>,
  signal?: AbortSignal,
  stale: () => boolean = () => false,
): Promise<Response> {
  let response = await ask();
  if (!saysLater(response)) return response;
  busy.waiting += 1;
  try {
    for (let tries = 1; tries < TRIES && saysLater(response) && !signal?.aborted; tries += 1) {
      await pauseFor(response, stale);
      if (stale()) return response;
      response = await ask();
    }
    return response;
  } finally {
    busy.waiting -= 1;
  }
}

/** As long as the server asks for, not all at the same moment; at most until something newer is wanted. */
async function pauseFor(response: Response, stale: () => boolean): Promise<void> {
  const after = 1000 * Number(response.headers.get('Retry-After'));
  const until = Date.now() + Math.min(after * (0.5 + Math.random()), LONGEST_MS);
  for (let left = until - Date.now(); left > 0 && !stale(); left = until - Date.now())
    await new Promise((resolve) => setTimeout(resolve, Math.min(left, LOOK_MS)));
}

function saysLater(response: Response): boolean {
  return response.status === BUSY && response.headers.has('Retry-After');
}
