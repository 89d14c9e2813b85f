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
  onClose(): void;
}

export type SoundCommand = Command<SoundContext, SoundSheetProps>;
