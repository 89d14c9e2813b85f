import type { ProjectRevision } from '@hastig/contract';
import { api } from './api';
import { rearrange } from './edit';
import { noticeSet, messageSet } from './session-slice';
import type { AppThunk } from './store';

/** A state with a name, or the last state of a minute in which the project was changed. */
export interface EarlierState {
  revision: number;
  /** '' where it has none. */
  name: string;
  /** When it came to that state. */
  at: Date;
  /** Changes within that minute, up to this state. */
  changes: number;
}

/** Revisions gathered by the minute, those with a name by themselves, the latest first; the current one is none of them. */
export function versionHistory(revisions: readonly ProjectRevision[], current: number): EarlierState[] {
  const states: EarlierState[] = [];
  let minute = '';
  for (const { revision, at, name = '' } of revisions) {
    if (revision >= current) continue;
    const date = new Date(at);
    const here = date.toISOString().slice(0, 16);
    if (here === minute && name === '') states.at(-1)!.changes++;
    else states.push({ revision, name, at: date, changes: 1 });
    minute = here;
  }
  return states;
}

/** The name of a state; '' where it has none. */
export const nameOf = (revisions: readonly ProjectRevision[], revision: number): string =>
  revisions.find((one) => one.revision === revision)?.name ?? '';

/** Makes the project what it was at a revision: one step of history, so that undo brings back what it is now. */
export function restoreVersion(revision: number, words: string): AppThunk<Promise<void>> {
  return async (dispatch, getState) => {
    const { id } = getState().project;
    if (!id) return;
    try {
      const { document } = await api.getRevision(id, revision);
      dispatch(rearrange(`restore ${words}`, () => document));
      dispatch(messageSet(`Restored the project ${words}. Undo returns to the newer version.`));
    } catch (error) {
      dispatch(noticeSet((error as Error).message));
    }
  };
}
