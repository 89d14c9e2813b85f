import type { Comparing, CompareSide, Side, VersionTarget } from '@hastig/core';
import type { MediaLocation } from '@hastig/engine';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { still } from './still';

/** Two that are seen side by side, and how. */
interface Comparison {
  target: VersionTarget;
  sides: Record<CompareSide, Side>;
  /** What each is called. */
  names: Record<CompareSide, string>;
  how: Comparing;
  /** How fast it plays, as a share of real time. */
  speed: number;
}

interface CompareState {
  on: Comparison | null;
  /** Where rendered files are that can be compared, by the ids they have as sources. */
  files: Readonly<Record<string, MediaLocation>>;
}

const initialState: CompareState = { on: null, files: {} };

const slice = createSlice({
  name: 'compare',
  initialState,
  reducers: {
    compareBegun: (state, { payload }: PayloadAction<Comparison>) => {
      state.on = still(payload);
    },
    compareEnded: (state) => {
      state.on = null;
    },
    sideChosen: (state, { payload }: PayloadAction<{ which: CompareSide; side: Side; name: string }>) => {
      const { which, side, name } = payload;
      if (!state.on) return;
      state.on.sides[which] = still(side);
      state.on.names[which] = name;
    },
    comparingSet: ({ on }, { payload }: PayloadAction<Partial<Comparing>>) => {
      if (on) on.how = { ...on.how, ...payload };
    },
    turnTaken: ({ on }) => {
      if (on) on.how.alone = on.how.alone === 'a' ? 'b' : 'a';
    },
    compareSpeedSet: ({ on }, { payload }: PayloadAction<number>) => {
      if (on) on.speed = payload;
    },
    fileLocated: (state, { payload }: PayloadAction<{ sourceId: string; location: MediaLocation }>) => ({
      ...state,
      files: { ...state.files, [payload.sourceId]: payload.location },
    }),
  },
});

export const compareReducer = slice.reducer;
export const { compareBegun, compareEnded, sideChosen, comparingSet, turnTaken, compareSpeedSet, fileLocated } =
  slice.actions;
