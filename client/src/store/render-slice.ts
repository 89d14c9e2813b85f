import type { RenderProgress } from '@hastig/engine';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** A file that waits for its turn, or is being made. */
interface QueuedRender {
  id: string;
  file: string;
}

/** How a render ended; for people. */
interface RenderOutcome {
  id: string;
  text: string;
  bad: boolean;
  /** The file that came of it. */
  made?: string;
}

interface RenderState {
  /** The first is being made. */
  queue: readonly QueuedRender[];
  progress: RenderProgress | null;
  paused: boolean;
  /** Of what was begun since nothing was under way, the last ones first. */
  outcomes: readonly RenderOutcome[];
  /** Told by a notification when all is done. */
  notify: boolean;
}

/** Outcomes that are shown. */
const MOST_OUTCOMES = 6;

const initialState: RenderState = { queue: [], progress: null, paused: false, outcomes: [], notify: false };

const slice = createSlice({
  name: 'render',
  initialState,
  reducers: {
    rendersQueued: (state, { payload }: PayloadAction<readonly QueuedRender[]>) => {
      if (state.queue.length === 0) state.outcomes = [];
      state.queue.push(...payload);
    },
    renderProgressed: (state, { payload }: PayloadAction<RenderProgress>) => {
      // The last small picture stays until there is another.
      const picture = payload.picture ?? state.progress?.picture;
      state.progress = { ...payload, ...(picture && { picture }) };
    },
    renderPaused: (state, { payload }: PayloadAction<boolean>) => {
      state.paused = payload;
    },
    /** One that waits is not made. */
    renderDropped: (state, { payload }: PayloadAction<string>) => {
      state.queue = state.queue.filter(({ id }, index) => index === 0 || id !== payload);
    },
    renderEnded: (state, { payload }: PayloadAction<RenderOutcome>) => {
      state.queue = state.queue.filter(({ id }) => id !== payload.id);
      state.progress = null;
      state.paused = false;
      state.outcomes = [payload, ...state.outcomes].slice(0, MOST_OUTCOMES);
    },
    notifyChosen: (state, { payload }: PayloadAction<boolean>) => {
      state.notify = payload;
    },
  },
});

export const renderReducer = slice.reducer;
export const { rendersQueued, renderProgressed, renderPaused, renderDropped, renderEnded, notifyChosen } =
  slice.actions;
