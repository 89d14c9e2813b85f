import type { Source } from '@hastig/contract';
import { startCopy, type RunningCopy } from '@hastig/engine';
import { api, copyAddress, mediaAddress } from './api';
import { copiesFound, copyEnded, copyGone, copyPieceSent, copyProgressed } from './copies-slice';
import type { AppThunk } from './store';

// Workers cannot live in the store; by the SHA-256 of what is copied.
const running = new Map<string, RunningCopy>();

/** Asks the server which scrubbing copies it has. Without them everything works, only slower. */
export function lookForCopies(): AppThunk<Promise<void>> {
  return async (dispatch) => {
    const copies = await api.listCopies().catch(() => []);
    dispatch(copiesFound(copies));
  };
}

/** Makes a source's scrubbing copy, or what is missing of it, and goes on wherever in the program one is meanwhile. */
export function makeScrubCopy({ sha256, facts }: Source): AppThunk<Promise<void>> {
  return async (dispatch, getState) => {
    if (running.has(sha256)) return;
    const there = getState().copies.pieces[sha256] ?? [];
    dispatch(copyProgressed({ sha256, done: 0, total: facts.video.frames }));
    const location = { url: mediaAddress(sha256), bytes: facts.bytes };
    const making = startCopy({ location, there, address: copyAddress(sha256) }, ({ done, total, sent }) => {
      if (!running.has(sha256)) return;
      dispatch(copyProgressed({ sha256, done, total }));
      if (sent) dispatch(copyPieceSent({ sha256, piece: sent }));
    });
    running.set(sha256, making);
    try {
      await making.result;
      dispatch(copyEnded({ sha256, fault: null }));
    } catch (error) {
      const { name, message } = error as Error;
      dispatch(copyEnded({ sha256, fault: name === 'AbortError' ? null : message }));
    } finally {
      running.delete(sha256);
    }
  };
}

/** Stops making a copy; what was sent stays, and the next time goes on from there. */
export function cancelScrubCopy(sha256: string): void {
  running.get(sha256)?.cancel();
}

/** Takes a source's copy away. Throws Refused or Unreachable. */
export function removeScrubCopy(sha256: string): AppThunk<Promise<void>> {
  return async (dispatch) => {
    await api.removeCopy(sha256);
    dispatch(copyGone(sha256));
  };
}
