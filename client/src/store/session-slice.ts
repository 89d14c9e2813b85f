import type { Timing } from '@hastig/contract';
import type { Keeps, TimeUnit } from '@hastig/core';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** A timing being tried out: shown and heard, but not in the document. */
export interface Trial {
  clipId: string;
  timing: Timing;
}

export interface SessionState {
  /** Output frame on the stage. */
  playhead: number;
  playing: boolean;
  loop: boolean;
  unit: TimeUnit;
  /** What edits leave alone unless said otherwise. */
  keeps: Keeps;
  /** Index of the selected span of the clip that is open. */
  selectedSpan: number | null;
  trial: Trial | null;
  /** Something that went wrong, for people, until dismissed. */
  notice: string | null;
}

const initialState: SessionState = {
  playhead: 0,
  playing: false,
  loop: false,
  unit: 'timecode',
  keeps: 'content',
  selectedSpan: null,
  trial: null,
  notice: null,
};

const units: TimeUnit[] = ['timecode', 'frames', 'seconds'];

const slice = createSlice({
  name: 'session',
  initialState,
  reducers: {
    clipEntered: (state) => ({ ...initialState, unit: state.unit, keeps: state.keeps, loop: state.loop }),
    playheadMoved: (state, { payload }: PayloadAction<number>) => {
      state.playhead = payload;
    },
    playingChanged: (state, { payload }: PayloadAction<boolean>) => {
      state.playing = payload;
    },
    loopToggled: (state) => {
      state.loop = !state.loop;
    },
    unitCycled: (state) => {
      state.unit = units[(units.indexOf(state.unit) + 1) % units.length]!;
    },
    keepsChosen: (state, { payload }: PayloadAction<Keeps>) => {
      state.keeps = payload;
    },
    spanSelected: (state, { payload }: PayloadAction<number | null>) => {
      state.selectedSpan = payload;
    },
    trialSet: (state, { payload }: PayloadAction<Trial | null>) => ({ ...state, trial: payload }),
    noticeSet: (state, { payload }: PayloadAction<string | null>) => {
      state.notice = payload;
    },
  },
});

export const sessionReducer = slice.reducer;
export const {
  clipEntered,
  playheadMoved,
  playingChanged,
  loopToggled,
  unitCycled,
  keepsChosen,
  spanSelected,
  trialSet,
  noticeSet,
} = slice.actions;
