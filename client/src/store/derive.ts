import { derivedPieces, type DerivedKey, type Source } from '@hastig/contract';
import { forgetFlows, startDerive, type RunningDerive } from '@hastig/engine';
import { api, derivedAddress, mediaAddress } from './api';
import { deriveEnded, deriveProgressed, derivedFound, derivedGone, derivedId, pieceSent } from './derived-slice';
import { shareAtPlayhead } from './share-at-playhead';
import type { AppThunk } from './store';

// Workers cannot live in the store.
const running = new Map<string, RunningDerive>();
// What was asked for in the background: one after the other, each once.
let background: Promise<unknown> = Promise.resolve();
const asked = new Set<string>();

/** Asks the server what it has derived. Without it everything works, only slower. */
export function lookForDerived(): AppThunk<Promise<void>> {
  return async (dispatch) => {
    dispatch(derivedFound(await api.listDerived().catch(() => [])));
  };
}

/** Takes away what this device keeps of files that the server has taken away. Where it can't be asked, all of it stays. */
export async function forgetGone(): Promise<void> {
  const files = await api.listMedia().catch(() => undefined);
  if (files) await forgetFlows(new Set(files)).catch(() => undefined);
}

type Derived = Pick<Source, 'sha256' | 'facts'>;

/** Makes something derived from a source, or what is missing of it, and goes on wherever in the program one is meanwhile. */
export function makeDerived({ sha256, facts }: Derived, key: DerivedKey): AppThunk<Promise<void>> {
  return async (dispatch, getState) => {
    const id = derivedId(sha256, key);
    if (running.has(id)) return;
    const there = getState().derived.pieces[id] ?? [];
    dispatch(deriveProgressed({ id, done: 0, total: 1 }));
    const location = { url: mediaAddress(sha256), bytes: facts.bytes, once: true };
    // What one looks at comes first, the rest behind.
    const near = shareAtPlayhead(getState(), sha256);
    const job = { ...key, location, there, near, address: derivedAddress(sha256, key) };
    const making = startDerive(job, ({ done, total, sent }) => {
      if (!running.has(id)) return;
      dispatch(deriveProgressed({ id, done, total }));
      if (sent) dispatch(pieceSent({ id, piece: sent }));
    });
    running.set(id, making);
    try {
      await making.result;
      dispatch(deriveEnded({ id, fault: null }));
    } catch (error) {
      const { name, message } = error as Error;
      dispatch(deriveEnded({ id, fault: name === 'AbortError' ? null : message }));
    } finally {
      running.delete(id);
    }
  };
}

/** Sees to it that something derived is there soon: made in the background where it is not, unless that was tried before. */
export function wantDerived(source: Derived, key: DerivedKey): AppThunk {
  return (dispatch, getState) => {
    const id = derivedId(source.sha256, key);
    if (asked.has(id)) return;
    asked.add(id);
    background = background.then(async () => {
      // What the server has is known by then.
      if (!getState().derived.pieces[id]) await dispatch(lookForDerived());
      const there = getState().derived.pieces[id]?.length ?? 0;
      if (there < derivedPieces(key, source.facts)) await dispatch(makeDerived(source, key));
    });
  };
}

/** Stops making something; what was sent stays, and the next time goes on from there. */
export function cancelDerive(sha256: string, key: DerivedKey): void {
  running.get(derivedId(sha256, key))?.cancel();
}

/** Takes away what was derived. Throws Refused or Unreachable. */
export function removeDerived(sha256: string, key: DerivedKey): AppThunk<Promise<void>> {
  return async (dispatch) => {
    await api.removeDerived(sha256, key);
    dispatch(derivedGone(derivedId(sha256, key)));
  };
}
