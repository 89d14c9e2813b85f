import type { PatchOperation } from '@hastig/contract';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { HistoryStep } from './project-slice';

/** What stands on the server at the point that a history belongs to, and how many of its steps are done. */
interface HistoryHead {
  project: string;
  revision: number;
  done: number;
  steps: number;
}

/** Steps that were put together into one request; sent again, it is the same one. */
export interface Batch {
  id: string;
  steps: number;
}

/** An outbox: changes to a project that a page has made and the server has not answered for, from a revision on. */
export interface OutboxHead {
  /** Of the page that made them. */
  page: string;
  project: string;
  revision: number;
  /** Number of the first step that is still in it, and of the next that comes. */
  first: number;
  next: number;
  batch: Batch | null;
}

interface HastigDatabase extends DBSchema {
  historyHeads: { key: string; value: HistoryHead };
  /** By project and number from the first step on. */
  historySteps: { key: [string, number]; value: HistoryStep };
  outboxHeads: { key: string; value: OutboxHead };
  /** By page and number. */
  outboxSteps: { key: [string, number]; value: PatchOperation[] };
}

type BrowserDatabase = IDBPDatabase<HastigDatabase>;

let opened: Promise<BrowserDatabase> | undefined;

/** This browser's own database. Refused where there is none, as in a private window. */
export function browserDatabase(): Promise<BrowserDatabase> {
  opened ??= openDB<HastigDatabase>('hastig', 1, {
    upgrade: (database) => {
      database.createObjectStore('historyHeads', { keyPath: 'project' });
      database.createObjectStore('historySteps');
      database.createObjectStore('outboxHeads', { keyPath: 'page' });
      database.createObjectStore('outboxSteps');
    },
  }).catch((error: unknown) => {
    opened = undefined;
    throw error;
  });
  return opened;
}

/** All keys of a store that begin with a text. */
export const keysOf = (first: string): IDBKeyRange => IDBKeyRange.bound([first], [first, []]);
