import type { ServerJob } from '@hastig/contract';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

interface JobsState {
  /** Newest first; undefined until they are known. */
  list: readonly ServerJob[] | undefined;
  /** Whether renders are handed to the server. */
  onServer: boolean;
}

const initialState: JobsState = { list: undefined, onServer: false };

const slice = createSlice({
  name: 'jobs',
  initialState,
  reducers: {
    jobsTold: (state, { payload }: PayloadAction<readonly ServerJob[]>) => ({ ...state, list: payload }),
    onServerChosen: (state, { payload }: PayloadAction<boolean>) => {
      state.onServer = payload;
    },
  },
});

export const jobsReducer = slice.reducer;
export const { jobsTold, onServerChosen } = slice.actions;

/** Whether a job is still to be done. */
export const isOpen = ({ state }: Pick<ServerJob, 'state'>): boolean =>
  state === 'waiting' || state === 'running' || state === 'paused';
