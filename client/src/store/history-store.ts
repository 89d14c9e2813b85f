import { PROJECT_VERSION } from '@hastig/contract';
import { get, set } from 'idb-keyval';
import type { HistoryStep } from './project-slice';

/** The steps that can be undone and redone at a revision. */
export interface KeptHistory {
  revision: number;
  past: HistoryStep[];
  future: HistoryStep[];
}

// Steps of an older version of documents do not apply to this one's.
const keyOf = (projectId: string): string => `history-${PROJECT_VERSION}:${projectId}`;

/** Keeps a project's history in this browser, so that undo reaches back past a reload. */
export async function keepHistory(projectId: string, history: KeptHistory): Promise<void> {
  try {
    await set(keyOf(projectId), history);
  } catch {
    // Without storage (a private window) undo ends at the reload; saving itself is not touched by that.
  }
}

/** The kept history, if it belongs to this very revision. */
export async function recallHistory(projectId: string, revision: number): Promise<KeptHistory | undefined> {
  try {
    const kept = await get<KeptHistory>(keyOf(projectId));
    return kept?.revision === revision ? kept : undefined;
  } catch {
    return undefined;
  }
}
