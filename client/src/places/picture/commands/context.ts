import type { Clip, RetimeMap } from '@hastig/contract';
import type { Command } from '../../../commands/command';
import type { TimeContext } from '../../../commands/general';
import type { RootState } from '../../../store/store';

/** What the commands of Picture work on. */
export interface PictureContext extends TimeContext {
  clip: Clip;
  state(): RootState;
  close(): void;
}

/** What the sheets of Picture are given. */
export interface PictureSheetProps {
  clipId: string;
  map: RetimeMap;
  /** The exposure or effect that is open, by its id; a new one where neither is told. */
  step?: string;
  effect?: string;
  /** Whether it is the film's. */
  film?: boolean;
  onClose(): void;
}

export type PictureCommand = Command<PictureContext, PictureSheetProps>;
