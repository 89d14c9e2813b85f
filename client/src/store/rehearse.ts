import { checkChangedDocument, type ProjectDocument } from '@hastig/contract';
import { integrityErrorsOfChange, placeOf, programOf, programUpdate, SEQUENCE, splitClip, tooMuch } from '@hastig/core';
import { applied, difference } from './difference';
import { opened } from './project-slice';
import { projectTried } from './session-slice';
import type { AppListeners, RootState } from './store';

/** Items of a row that are looked at in one go: a few milliseconds. */
const AT_ONCE = 250;

const parts = function* (length: number): Generator<[number, number]> {
  for (let from = 0; from < length; from += AT_ONCE) yield [from, from + AT_ONCE];
};

function halved(document: ProjectDocument): ProjectDocument | undefined {
  const clip = document.clips.find(
    ({ id, shown }) => shown.frames > 1 && placeOf(document, id)?.containerId === SEQUENCE,
  );
  if (!clip) return undefined;
  try {
    return splitClip(document, clip.id, placeOf(document, clip.id)!.from + 1, 'rehearsed');
  } catch {
    return undefined;
  }
}

/**
 * What an edit has done to it, done once for nothing, piece by piece: the code runs for the first time, the checks are made
 * ready, and what is kept of the things in the document is there. Each `next` is one piece of work, some milliseconds long.
 */
export function* rehearsal(document: ProjectDocument): Generator<void> {
  const { clips, groups, sources, sequence } = document;
  const others: Partial<ProjectDocument>[] = [
    {},
    { clips: clips.slice(0, 1).map((clip) => ({ ...clip })) },
    { groups: groups.slice(0, 1).map((group) => ({ ...group })) },
    { sources: sources.slice(0, 1).map((source) => ({ ...source })) },
    { sequence: { ...sequence, markers: sequence.markers.slice(0, 1).map((marker) => ({ ...marker })) } },
  ];
  for (const other of others) {
    checkChangedDocument(document, { ...document, ...other });
    yield;
  }
  for (const track of sequence.tracks) {
    for (const [from, to] of parts(track.items.length)) {
      const tracks = [{ ...track, items: track.items.slice(from, to) }];
      checkChangedDocument(document, { ...document, sequence: { ...sequence, tracks } });
      yield;
    }
  }
  const next = halved(document);
  if (!next) return;
  yield;
  tooMuch(next);
  yield;
  integrityErrorsOfChange(document, next);
  yield;
  const patches = difference(document, next);
  yield;
  difference(next, document);
  yield;
  applied(document, patches);
  yield;
  const before = programOf(document, SEQUENCE);
  yield;
  programUpdate(before, programOf(next, SEQUENCE));
}

const idle = (): Promise<void> =>
  new Promise((done) => {
    // Not every browser tells when it has nothing to do; between two tasks others get their turn at least.
    if (typeof requestIdleCallback === 'function') requestIdleCallback(() => done());
    else setTimeout(done, 50);
  });

/** Makes ready for the first edit of what was opened, whenever there is nothing else to do, until it is made. */
export function startRehearsals(listeners: AppListeners): void {
  listeners.startListening({
    actionCreator: opened,
    effect: async (_action, { getState, dispatch, cancelActiveListeners, pause }) => {
      cancelActiveListeners();
      const { document } = (getState() as RootState).project;
      if (!document) return;
      const pieces = rehearsal(document);
      for (;;) {
        await pause(idle());
        if ((getState() as RootState).project.document !== document) return;
        if (pieces.next().done) break;
      }
      await pause(idle());
      // Seen anew once with nothing that differs: what draws runs for the first time too.
      const { project, session } = getState() as RootState;
      // What plays is left alone: another program, though the same, has its sound begun anew.
      if (project.document !== document || session.trial || session.playing) return;
      const same = { ...document };
      dispatch(projectTried(same));
      await pause(idle());
      if ((getState() as RootState).session.trial === same) dispatch(projectTried(null));
    },
  });
}
