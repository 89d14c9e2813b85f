import type { RenderProgress } from '@hastig/engine';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

interface RenderState {
  /** Name of the file that is being rendered. */
  file: string | null;
  progress: RenderProgress | null;
  /** How the last one ended; for people. */
  /** `made` names the file that came of it. */
  outcome: { text: string; bad: boolean; made?: string } | null;
}

const initialState: RenderState = { file: null, progress: null, outcome: null };

const slice = createSlice({
  name: 'render',
  initialState,
  reducers: {
    renderStarted: (_state, { payload }: PayloadAction<string>) => ({ file: payload, progress: null, outcome: null }),
    renderProgressed: (state, { payload }: PayloadAction<RenderProgress>) => {
      state.progress = payload;
    },
    renderEnded: (_state, { payload }: PayloadAction<RenderState['outcome']>) => ({
      ...initialState,
      outcome: payload,
    }),
  },
});

export const renderReducer = slice.reducer;
export const { renderStarted, renderProgressed, renderEnded } = slice.actions;
