import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { keptPath, type KeptPath } from '../path/kept';
import type { PathStart, PathStep } from '../path/steps';

const slice = createSlice({
  name: 'path',
  initialState: keptPath,
  reducers: {
    pathBegun: (_state, { payload }: PayloadAction<{ project: string; start: PathStart }>): KeptPath => ({
      ...payload,
      ...{ done: [], open: true, answered: true },
    }),
    pathShown: (state, { payload }: PayloadAction<boolean>) => {
      state.open = payload;
      state.answered = true;
    },
    stepsDone: (state, { payload }: PayloadAction<readonly PathStep[]>) => {
      state.done = [...new Set([...state.done, ...payload])];
    },
  },
});

export const pathReducer = slice.reducer;
export const { pathBegun, pathShown, stepsDone } = slice.actions;
