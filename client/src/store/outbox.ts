import type { PatchOperation } from '@hastig/contract';
import { nanoid } from '@reduxjs/toolkit';
import { browserDatabase, keysOf, type Batch, type OutboxHead } from './browser-database';

/** What an outbox holds, as a later page finds it. */
export interface FoundOutbox {
  page: string;
  project: string;
  /** The server's revision that the first step starts from. */
  revision: number;
  steps: PatchOperation[][];
  batch: Batch | null;
}

/** Where this page puts what it changes. */
interface Sitting {
  /** Its name; while the page is at it, it holds a lock of that name, so that others leave its outbox to it. */
  page: string;
  held: Promise<void>;
  leave(): void;
}

const lockOf = (name: string): string => `hastig-outbox-${name}`;

let sitting: Sitting | undefined;

function sit(): Sitting {
  if (sitting) return sitting;
  const page = nanoid();
  let leave = (): void => undefined;
  const ended = new Promise<void>((resolve) => (leave = resolve));
  const held = new Promise<void>((resolve) => {
    if (!navigator.locks) return resolve();
    void navigator.locks.request(lockOf(page), () => {
      resolve();
      return ended;
    });
  });
  sitting = { page, held, leave };
  return sitting;
}

async function isAlive(name: string): Promise<boolean> {
  if (!navigator.locks) return name === sitting?.page;
  const { held = [] } = await navigator.locks.query();
  return held.some((lock) => lock.name === lockOf(name));
}

// One write after the other, in the order they were asked for.
let queue: Promise<unknown> = Promise.resolve();

/** Whether what is put into it is kept; it is not in a private window. */
let works = true;

function inOrder(write: () => Promise<void>): Promise<void> {
  const done = queue.then(write).catch(() => {
    // Saving itself goes on without it.
    works = false;
  });
  queue = done;
  return done;
}

/** Whether edits survive the page: then nobody needs to be asked before it is closed. */
export const outboxWorks = (): boolean => works;

/** Waits until all that was put in is kept. */
export const outboxKept = (): Promise<unknown> => queue;

async function change(
  update: (head: OutboxHead) => OutboxHead,
  steps: readonly PatchOperation[][] = [],
): Promise<void> {
  const { page, held } = sit();
  await held;
  const database = await browserDatabase();
  const transaction = database.transaction(['outboxHeads', 'outboxSteps'], 'readwrite');
  const heads = transaction.objectStore('outboxHeads');
  const before = (await heads.get(page)) ?? { page, project: '', revision: 0, first: 0, next: 0, batch: null };
  const head = update(before);
  const kept = transaction.objectStore('outboxSteps');
  if (head.first > before.first)
    await kept.delete(IDBKeyRange.bound([page, before.first], [page, head.first], false, true));
  for (const [index, step] of steps.entries()) await kept.put(step, [page, before.next + index]);
  if (head.first === head.next + steps.length) await heads.delete(page);
  else await heads.put({ ...head, next: head.next + steps.length });
  await transaction.done;
}

/** Puts steps in that the server does not have yet. */
export const putIn = (project: string, revision: number, steps: readonly PatchOperation[][]): Promise<void> =>
  inOrder(() => change((head) => (head.project === project ? head : { ...head, project, revision }), steps));

/** Notes what goes out together next, before it does. */
export const noteBatch = (batch: Batch): Promise<void> => inOrder(() => change((head) => ({ ...head, batch })));

/** Takes out what the server has answered for. */
export const takeOut = (steps: number, revision: number): Promise<void> =>
  inOrder(() => change((head) => ({ ...head, first: head.first + steps, revision, batch: null })));

/** Empties it: what was in it is dealt with otherwise. */
export const emptyOutbox = (): Promise<void> =>
  inOrder(() => change((head) => ({ ...head, first: head.next, batch: null })));

/** Leaves what is in it to whoever finds it: this page is done with the project. */
export const leaveOutbox = (): Promise<void> =>
  inOrder(async () => {
    sitting?.leave();
    sitting = undefined;
  });

/**
 * Outboxes of pages that are closed, the oldest revision first. Whoever takes them over calls `dropOutbox`.
 *
 * @param project only of one project
 */
export async function abandonedOutboxes(project?: string): Promise<FoundOutbox[]> {
  try {
    const database = await browserDatabase();
    const heads = (await database.getAll('outboxHeads')).filter((head) => !project || head.project === project);
    const found: FoundOutbox[] = [];
    for (const { page: from, next, first, ...head } of heads) {
      if (await isAlive(from)) continue;
      const steps = await database.getAll('outboxSteps', keysOf(from));
      // Less than there should be is of no use: the rest does not fit without it.
      if (steps.length === next - first) found.push({ ...head, page: from, steps });
    }
    return found.sort((a, b) => a.revision - b.revision);
  } catch {
    return [];
  }
}

/** Takes an outbox away that another page left behind. */
export async function dropOutbox(from: string): Promise<void> {
  const database = await browserDatabase();
  const transaction = database.transaction(['outboxHeads', 'outboxSteps'], 'readwrite');
  await transaction.objectStore('outboxHeads').delete(from);
  await transaction.objectStore('outboxSteps').delete(keysOf(from));
  await transaction.done;
}
