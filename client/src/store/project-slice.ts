import type { PatchOperation, ProjectDocument, StoredProject } from '@hastig/contract';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { current, isDraft } from 'immer';
import type { Batch } from './browser-database';
import { applied } from './difference';
import { still } from './still';

/** One step of history: what it did, and how it is done again and undone. */
export interface HistoryStep {
  label: string;
  patches: PatchOperation[];
  inverse: PatchOperation[];
}

/**
 * How the document stands to the server: `unsaved` will be sent in a moment, `offline` is tried again by itself, `full` when
 * somebody asks for it.
 */
export type SaveState = 'saved' | 'unsaved' | 'saving' | 'offline' | 'full' | 'conflict' | 'refused';

interface ProjectState {
  id: string | null;
  /** The server's revision that `pending` starts from. */
  revision: number;
  document: ProjectDocument | null;
  /** What stands on the server at `revision`, as far as this page knows. */
  base: ProjectDocument | null;
  past: HistoryStep[];
  future: HistoryStep[];
  /** Changes that the server does not have yet, step by step. */
  pending: PatchOperation[][];
  /** What of `pending` is on its way; sent again, it is the same. */
  batch: Batch | null;
  save: SaveState;
  /** Why saving was refused; for people. */
  saveFault: string | null;
  /** What stands on the server when somebody else changed it. */
  theirs: StoredProject | null;
}

/** What a page before this one had changed and not sent. */
export interface UnsentChanges {
  /** The server's revision that they start from, and what stood there. */
  revision: number;
  base: ProjectDocument;
  document: ProjectDocument;
  steps: PatchOperation[][];
  /** The step of history that undoes all of them. */
  step: HistoryStep;
}

interface OpenedProject {
  project: StoredProject;
  past?: HistoryStep[];
  future?: HistoryStep[];
  unsent?: UnsentChanges;
}

const closed: ProjectState = {
  id: null,
  revision: 0,
  document: null,
  base: null,
  past: [],
  future: [],
  pending: [],
  batch: null,
  save: 'saved',
  saveFault: null,
  theirs: null,
};

// Reducers get a draft; whole documents are handed on as they are, not wrapped once more.
const plain = (state: ProjectState): ProjectState => (isDraft(state) ? current(state) : state);

const slice = createSlice({
  name: 'project',
  initialState: closed,
  reducers: {
    opened: (_state, { payload: { project, past = [], future = [], unsent } }: PayloadAction<OpenedProject>) => {
      const { id, revision } = project;
      const document = still(project.document);
      for (const one of [...past, ...future]) still(one);
      if (!unsent) return { ...closed, id, revision, document, base: document, past, future };
      const { steps, step, ...mine } = unsent;
      for (const one of [mine.base, mine.document, step, ...steps]) still<object>(one);
      const together = unsent.revision === revision;
      return {
        ...{ ...closed, ...mine, id, pending: steps, past: [...past, step] },
        ...(together ? { save: 'unsaved' as const } : { save: 'conflict' as const, theirs: project }),
      };
    },
    projectClosed: () => closed,
    edited: (state, { payload }: PayloadAction<{ document: ProjectDocument; step: HistoryStep }>) => {
      const now = plain(state as ProjectState);
      return {
        ...now,
        document: payload.document,
        past: [...now.past, payload.step],
        future: [],
        pending: [...now.pending, payload.step.patches],
        save: changed(now.save),
      };
    },
    undone: (state) => step(plain(state as ProjectState), 'past', 'future', 'inverse'),
    redone: (state) => step(plain(state as ProjectState), 'future', 'past', 'patches'),
    savingStarted: (state, { payload }: PayloadAction<Batch>) => ({
      ...plain(state as ProjectState),
      save: 'saving',
      batch: payload,
    }),
    savingDone: (state, { payload: { revision, steps } }: PayloadAction<{ revision: number; steps: number }>) => {
      const now = plain(state as ProjectState);
      const pending = now.pending.slice(steps);
      return {
        ...{ ...now, revision, pending, batch: null, saveFault: null },
        save: pending.length > 0 ? ('unsaved' as const) : ('saved' as const),
        base: pending.length > 0 ? still(applied(now.base!, now.pending.slice(0, steps).flat())) : now.document,
      };
    },
    savingFailed: (
      state,
      { payload: { save, fault } }: PayloadAction<{ save: 'offline' | 'full' | 'refused'; fault: string }>,
    ) => {
      const now = plain(state as ProjectState);
      // What was refused is not sent once more as it was; all else may have arrived, and its answer not.
      return { ...now, save, saveFault: fault, batch: save === 'refused' ? null : now.batch };
    },
    changedElsewhere: (state, { payload }: PayloadAction<StoredProject>) => ({
      ...plain(state as ProjectState),
      save: 'conflict',
      batch: null,
      theirs: still(payload),
    }),
  },
});

const changed = (save: SaveState): SaveState => (save === 'conflict' ? 'conflict' : 'unsaved');

function step(
  state: ProjectState,
  from: 'past' | 'future',
  to: 'past' | 'future',
  way: 'patches' | 'inverse',
): ProjectState {
  const last = state[from].at(-1);
  if (!last || !state.document) return state;
  return {
    ...state,
    document: still(applied(state.document, last[way])),
    [from]: state[from].slice(0, -1),
    [to]: [...state[to], last],
    pending: [...state.pending, last[way]],
    save: changed(state.save),
  };
}

export const projectReducer = slice.reducer;
export const {
  opened,
  projectClosed,
  edited,
  undone,
  redone,
  savingStarted,
  savingDone,
  savingFailed,
  changedElsewhere,
} = slice.actions;
