import type { ProjectDocument, StoredProject } from '@hastig/contract';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { applyPatches, current, enablePatches, isDraft, type Patch } from 'immer';

enablePatches();

/** One step of history: what it did, and how it is done again and undone. */
export interface HistoryStep {
  label: string;
  patches: Patch[];
  inverse: Patch[];
}

/** How the document stands to the server: `unsaved` will be sent in a moment, `offline` is tried again. */
export type SaveState = 'saved' | 'unsaved' | 'saving' | 'offline' | 'conflict' | 'refused';

export interface ProjectState {
  id: string | null;
  /** The server's revision that `pending` starts from. */
  revision: number;
  document: ProjectDocument | null;
  /** What stands on the server at `revision`, as far as this page knows. */
  base: ProjectDocument | null;
  /** What is being sent. */
  sending: ProjectDocument | null;
  past: HistoryStep[];
  future: HistoryStep[];
  /** Changes that the server does not have yet. */
  pending: Patch[];
  save: SaveState;
  /** Why saving was refused; for people. */
  saveFault: string | null;
  /** What stands on the server when somebody else changed it. */
  theirs: StoredProject | null;
}

const closed: ProjectState = {
  id: null,
  revision: 0,
  document: null,
  base: null,
  sending: null,
  past: [],
  future: [],
  pending: [],
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
    opened: (
      _state,
      { payload }: PayloadAction<{ project: StoredProject; past?: HistoryStep[]; future?: HistoryStep[] }>,
    ) => ({
      ...closed,
      id: payload.project.id,
      revision: payload.project.revision,
      document: payload.project.document,
      base: payload.project.document,
      past: payload.past ?? [],
      future: payload.future ?? [],
    }),
    projectClosed: () => closed,
    edited: (state, { payload }: PayloadAction<{ document: ProjectDocument; step: HistoryStep }>) => ({
      ...plain(state as ProjectState),
      document: payload.document,
      past: [...state.past, payload.step],
      future: [],
      pending: [...state.pending, ...payload.step.patches],
      save: state.save === 'conflict' ? 'conflict' : 'unsaved',
    }),
    undone: (state) => step(plain(state as ProjectState), 'past', 'future', 'inverse'),
    redone: (state) => step(plain(state as ProjectState), 'future', 'past', 'patches'),
    savingStarted: (state) => ({
      ...plain(state as ProjectState),
      save: 'saving',
      sending: plain(state as ProjectState).document,
    }),
    savingDone: (state, { payload }: PayloadAction<{ revision: number; sent: number }>) => {
      const now = plain(state as ProjectState);
      const pending = now.pending.slice(payload.sent);
      const { revision } = payload;
      const save = pending.length > 0 ? ('unsaved' as const) : ('saved' as const);
      return { ...now, revision, pending, save, saveFault: null, base: now.sending, sending: null };
    },
    savingFailed: (state, { payload }: PayloadAction<{ save: 'offline' | 'refused'; fault: string }>) => {
      state.save = payload.save;
      state.saveFault = payload.fault;
    },
    changedElsewhere: (state, { payload }: PayloadAction<StoredProject>) => ({
      ...plain(state as ProjectState),
      save: 'conflict',
      theirs: payload,
    }),
  },
});

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
    document: applyPatches(state.document, last[way]),
    [from]: state[from].slice(0, -1),
    [to]: [...state[to], last],
    pending: [...state.pending, ...last[way]],
    save: state.save === 'conflict' ? 'conflict' : 'unsaved',
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
