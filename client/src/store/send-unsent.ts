import { api, Refused } from './api';
import { dropOutbox, abandonedOutboxes, type FoundOutbox } from './outbox';
import { stepsTogether } from './steps-together';

/**
 * Sends what pages that are no more had not sent, as far as it fits what stands on the server: what does not is put together
 * when its project is opened. Where the server cannot be reached it stays for the next time.
 */
export function sendUnsent(): Promise<void> {
  // One after the other: two at once would send the same.
  running = running.then(send, send);
  return running;
}

let running: Promise<void> = Promise.resolve();

async function send(): Promise<void> {
  for (const found of await abandonedOutboxes()) {
    const sent = await sendAll(found).catch(isGone);
    if (sent) await dropOutbox(found.page);
  }
}

// Of a project that was deleted meanwhile nothing is wanted any more.
const isGone = (error: unknown): boolean => error instanceof Refused && error.problem.status === 404;

async function sendAll({ page, project, revision, steps, batch }: FoundOutbox): Promise<boolean> {
  let [at, from, next] = [revision, 0, batch];
  while (from < steps.length) {
    const count = next?.steps ?? stepsTogether(steps.slice(from));
    // Under the name of the page and its place: asked again after a lost answer, it is the same batch.
    const name = next?.id ?? `${page}-${at}-${from}`;
    at = (await api.patchProject(project, at, steps.slice(from, from + count).flat(), name)).revision;
    from += count;
    next = null;
  }
  return true;
}
