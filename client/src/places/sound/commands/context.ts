import type { Clip, RetimeMap } from '@hastig/contract';
import type { Command } from '../../../commands/command';
import type { TimeContext } from '../../../commands/general';
import type { RootState } from '../../../store/store';

/** What the commands of Sound work on. */
export interface SoundContext extends TimeContext {
  clip: Clip;
  state(): RootState;
  close(): void;
}

/** What the sheets of Sound are given. */
export interface SoundSheetProps {
  clipId: string;
  /** What the clip lies in. */
  containerId: string;
  map: RetimeMap;
  /** Frame of what the clip lies in at which the playhead stands. */
  near(): number;
  onClose(): void;
}

export type SoundCommand = Command<SoundContext, SoundSheetProps>;
