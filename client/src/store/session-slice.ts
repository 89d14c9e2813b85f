import type { Timing } from '@hastig/contract';
import { timeUnits, type Keeps, type TimeUnit } from '@hastig/core';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** A timing being tried out: shown and heard, but not in the document. */
export interface Trial {
  clipId: string;
  timing: Timing;
}

/** What the place Pace shows: the speed curve, the course of positions, or the table of keys. */
export type PaceView = 'speed' | 'position' | 'ledger';

/** A copied timing and the name of its clip. */
export interface CopiedTiming {
  from: string;
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
  /** Keys chosen together, by their index; empty unless more than one is chosen at once. */
  selectedKeys: number[];
  /** Output frames between which edits of a range work; either end may be open. */
  marks: { from: number | null; to: number | null };
  /** Whether what is dragged rests at whole frames and marked speeds. */
  snap: boolean;
  paceView: PaceView;
  /** A timing taken from a clip, to be pasted on others. */
  copied: CopiedTiming | null;
  trial: Trial | null;
  /** Something that went wrong, for people, until dismissed. */
  notice: string | null;
  /** Something that was done and cannot be seen, such as a copy; until dismissed or the next one. */
  told: string | null;
}

const initialState: SessionState = {
  playhead: 0,
  playing: false,
  loop: false,
  unit: 'timecode',
  keeps: 'content',
  selectedSpan: null,
  selectedKeys: [],
  marks: { from: null, to: null },
  snap: true,
  paceView: 'speed',
  copied: null,
  trial: null,
  notice: null,
  told: null,
};

const slice = createSlice({
  name: 'session',
  initialState,
  reducers: {
    clipEntered: ({ unit, keeps, loop, snap, paceView, copied }) => ({
      ...initialState,
      ...{ unit, keeps, loop, snap, paceView, copied },
    }),
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
      state.unit = timeUnits[(timeUnits.indexOf(state.unit) + 1) % timeUnits.length]!;
    },
    keepsChosen: (state, { payload }: PayloadAction<Keeps>) => {
      state.keeps = payload;
    },
    spanSelected: (state, { payload }: PayloadAction<number | null>) => {
      state.selectedSpan = payload;
      state.selectedKeys = [];
    },
    keysSelected: (state, { payload }: PayloadAction<number[]>) => {
      state.selectedKeys = payload;
      if (payload.length > 0) state.selectedSpan = null;
    },
    marked: (state, { payload }: PayloadAction<{ side: 'from' | 'to'; at: number | null }>) => {
      const { side, at } = payload;
      state.marks[side] = at;
      // A mark on the wrong side of the other takes its place.
      const { from, to } = state.marks;
      if (from !== null && to !== null && from >= to) state.marks[side === 'from' ? 'to' : 'from'] = null;
    },
    marksCleared: (state) => {
      state.marks = { from: null, to: null };
    },
    snapToggled: (state) => {
      state.snap = !state.snap;
    },
    paceViewChosen: (state, { payload }: PayloadAction<PaceView>) => {
      state.paceView = payload;
    },
    timingCopied: (state, { payload }: PayloadAction<CopiedTiming>) => ({ ...state, copied: payload }),
    trialSet: (state, { payload }: PayloadAction<Trial | null>) => ({ ...state, trial: payload }),
    noticeSet: (state, { payload }: PayloadAction<string | null>) => {
      state.notice = payload;
    },
    toldSet: (state, { payload }: PayloadAction<string | null>) => {
      state.told = payload;
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
  keysSelected,
  marked,
  marksCleared,
  snapToggled,
  paceViewChosen,
  timingCopied,
  trialSet,
  noticeSet,
  toldSet,
} = slice.actions;
