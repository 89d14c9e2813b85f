import type { SeenMarker } from '@hastig/core';
import type { Command } from '../../../commands/command';
import type { TimeContext } from '../../../commands/general';
import type { Footage } from '../../../beats/made-sheet';
import type { MusicClip } from '../../../beats/music';
import type { AnalysisState } from '../../../beats/use-analysis';
import type { RootState } from '../../../store/store';

/** What the thumb does: taps along, drives the speed, or neither. */
export type BeatsMode = 'tap' | 'by-hand' | null;

/** What the commands of Beats work on. */
export interface BeatsContext extends TimeContext {
  containerId: string;
  /** What is listened to; undefined where nothing sounds. */
  music: MusicClip | undefined;
  /** The markers of the set that is worked with, in order. */
  markers: readonly SeenMarker[];
  state(): RootState;
  seek(frame: number): void;
  /** What is beneath the waveform: the pad, the throttle, or nothing. */
  mode: BeatsMode;
  setMode(mode: BeatsMode): void;
  /** Sets a marker where it is heard now, or at the playhead. */
  tap(): void;
  close(): void;
}

/** What the sheets of Beats are given. */
export interface BeatsSheetProps {
  containerId: string;
  music: MusicClip;
  footage: Footage;
  state: AnalysisState;
  markers: readonly SeenMarker[];
  onClose(): void;
}

export type BeatsCommand = Command<BeatsContext, BeatsSheetProps>;
