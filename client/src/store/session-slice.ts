import type { Clip, ProjectDocument, RetimeMap, Timing } from '@hastig/contract';
import {
  settingsThatCount,
  timeUnits,
  timingOf,
  type Keeps,
  type RippleMode,
  type StageTarget,
  type TimeUnit,
  type TravellingSettings,
} from '@hastig/core';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { still } from './still';

/** What the place Pace shows: the speed curve, the course of positions, or the table of keys. */
export type PaceView = 'speed' | 'position' | 'ledger';

/** What was copied from a clip, and its name. */
export interface CopiedSettings extends TravellingSettings {
  from: string;
  timing: Timing;
  muted: boolean;
}

/** What can be pasted from a clip with this map. */
export function copiedFrom(clip: Clip, map: RetimeMap): CopiedSettings {
  return { from: clip.name, timing: timingOf(map), ...settingsThatCount(clip), muted: clip.muted ?? false };
}

/** What dragging a clip's edge does: frames are hidden or shown again, or the speed changes. */
export type EdgeWay = 'trim' | 'stretch';

export interface SessionState {
  /** What is on the stage. */
  target: StageTarget | null;
  /** Output frame on the stage. */
  playhead: number;
  /** Where the playhead stood on what was on the stage before, by project and target. */
  playheads: Readonly<Record<string, number>>;
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
  /** Whether the picture fills the screen. */
  fullScreen: boolean;
  /** Taken from a clip, to be pasted on others. */
  copied: CopiedSettings | null;
  /** The project with an edit that is being tried out: shown and heard in place of the document. */
  trial: ProjectDocument | null;
  /** Clips chosen on the timeline. */
  selectedClips: string[];
  /** The gap that was pointed at last, to be filled: its track and its first frame. */
  gap: { trackId: string; from: number } | null;
  edges: EdgeWay;
  /** What becomes of the room that is left on a track. */
  rippleMode: RippleMode;
  /** The set of markers that is worked with: its name, '' for those without one, null for all. */
  markerSet: string | null;
  /** Markers chosen, by their ids. */
  selectedMarkers: string[];
  /** Whether a click is heard on each marker of the set, and how loud (0 to 1). */
  clicks: boolean;
  clickLoudness: number;
  /** Whether pins go along with the markers they lie on. */
  pinsFollow: boolean;
  /** Whether taps come to lie on the nearest hit. */
  snapTaps: boolean;
  /** Something that went wrong, for people, until dismissed. */
  notice: string | null;
  /** Something that was done and cannot be seen, such as a copy; until dismissed or the next one. */
  message: string | null;
}

const initialState: SessionState = {
  target: null,
  playhead: 0,
  playheads: {},
  playing: false,
  loop: false,
  unit: 'timecode',
  keeps: 'content',
  selectedSpan: null,
  selectedKeys: [],
  marks: { from: null, to: null },
  snap: true,
  paceView: 'speed',
  fullScreen: false,
  copied: null,
  trial: null,
  selectedClips: [],
  gap: null,
  edges: 'trim',
  rippleMode: 'close',
  markerSet: null,
  selectedMarkers: [],
  clicks: false,
  clickLoudness: 0.5,
  pinsFollow: true,
  snapTaps: true,
  notice: null,
  message: null,
};

const slice = createSlice({
  name: 'session',
  initialState,
  reducers: {
    /** Something else comes on the stage; choices about how to work are kept, choices of things are not. */
    targetOpened: (
      { unit, keeps, loop, snap, paceView, copied, edges, rippleMode, selectedClips, ...now },
      { payload }: PayloadAction<Pick<SessionState, 'target' | 'playhead' | 'playheads'>>,
    ) => ({
      ...initialState,
      ...{ unit, keeps, loop, snap, paceView, copied, edges, rippleMode, selectedClips },
      markerSet: now.markerSet,
      selectedMarkers: now.selectedMarkers,
      clickLoudness: now.clickLoudness,
      pinsFollow: now.pinsFollow,
      snapTaps: now.snapTaps,
      ...payload,
    }),
    gapChosen: (state, { payload }: PayloadAction<SessionState['gap']>) => {
      state.gap = payload;
    },
    clipsSelected: (state, { payload }: PayloadAction<string[]>) => {
      state.selectedClips = payload;
    },
    edgesChosen: (state, { payload }: PayloadAction<EdgeWay>) => {
      state.edges = payload;
    },
    rippleModeSet: (state, { payload }: PayloadAction<RippleMode>) => {
      state.rippleMode = payload;
    },
    projectTried: (state, { payload }: PayloadAction<ProjectDocument | null>) => {
      state.trial = still(payload);
    },
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
    fullScreenSet: (state, { payload }: PayloadAction<boolean>) => {
      state.fullScreen = payload;
    },
    fullScreenToggled: (state) => {
      state.fullScreen = !state.fullScreen;
    },
    settingsCopied: (state, { payload }: PayloadAction<CopiedSettings>) => ({ ...state, copied: payload }),
    markerSetChosen: (state, { payload }: PayloadAction<string | null>) => {
      state.markerSet = payload;
      state.selectedMarkers = [];
    },
    markersSelected: (state, { payload }: PayloadAction<string[]>) => {
      state.selectedMarkers = payload;
    },
    clicksToggled: (state) => {
      state.clicks = !state.clicks;
    },
    clickLoudnessSet: (state, { payload }: PayloadAction<number>) => {
      state.clickLoudness = payload;
    },
    pinsFollowSet: (state, { payload }: PayloadAction<boolean>) => {
      state.pinsFollow = payload;
    },
    snapTapsSet: (state, { payload }: PayloadAction<boolean>) => {
      state.snapTaps = payload;
    },
    noticeSet: (state, { payload }: PayloadAction<string | null>) => {
      state.notice = payload;
    },
    messageSet: (state, { payload }: PayloadAction<string | null>) => {
      state.message = payload;
    },
  },
});

export const sessionReducer = slice.reducer;
export const {
  targetOpened,
  clipsSelected,
  gapChosen,
  edgesChosen,
  rippleModeSet,
  projectTried,
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
  fullScreenSet,
  fullScreenToggled,
  settingsCopied,
  markerSetChosen,
  markersSelected,
  clicksToggled,
  clickLoudnessSet,
  pinsFollowSet,
  snapTapsSet,
  noticeSet,
  messageSet,
} = slice.actions;
