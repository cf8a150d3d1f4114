const BUSY = 503;
const TRIES = 40;
const LONGEST_MS = 5000;

/** How many questions wait because the server has too much to do. */
class Busy {
  waiting = $state(0);
}
export const busy = new Busy();

/** Ask again for as long as the server says that it has too much to do just now: nothing is lost meanwhile. */
export async function inTurn(
  ask: () => Promise<Response>,
  signal?: AbortSignal,
): Promise<Response> {
  let response = await ask();
  if (!saysLater(response)) return response;
  busy.waiting += 1;
  try {
    for (let tries = 1; tries < TRIES && saysLater(response) && !signal?.aborted; tries += 1) {
      const after = 1000 * Number(response.headers.get('Retry-After'));
      // Not all at the same moment.
      const pause = Math.min(after * (0.5 + Math.random()), LONGEST_MS);
      await new Promise((resolve) => setTimeout(resolve, pause));
      response = await ask();
    }
    return response;
  } finally {
    busy.waiting -= 1;
  }
}

function saysLater(response: Response): boolean {
  return response.status === BUSY && response.headers.has('Retry-After');
}
