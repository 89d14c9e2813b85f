import type { RetimeMap } from '@hastig/contract';
import { compile, spanIndexAt } from '@hastig/core';
import type { TimeContext } from '../../../commands/general';
import type { Command } from '../../../commands/command';
import type { SessionState } from '../../../store/session-slice';
import type { RootState } from '../../../store/store';
import type { SheetProps } from '../sheets/form-sheet';

/** What the commands of Pace work on. */
export interface PaceContext extends TimeContext, Pick<SessionState, 'selectedSpan' | 'selectedKeys' | 'copied'> {
  clipId: string;
  map: RetimeMap;
  state(): RootState;
  seek(frame: number): void;
  /** Uses the curve in a way until it is chosen again, or anything else is. */
  curveTo(way: 'draw' | 'select'): void;
  /** Shuts the sheet that is open and ends what the curve is used for. */
  end(): void;
}

/** What the sheets of Pace are given. */
export interface PaceSheetProps extends SheetProps {
  /** Text that was pasted on the place and looks like a table of keys. */
  pasted: string;
}

export type PaceCommand = Command<PaceContext, PaceSheetProps>;

/** The part that is meant: the selected one, or the one at the playhead. */
export function partOf({ map, selectedSpan, now }: PaceContext): number {
  return Math.min(selectedSpan ?? spanIndexAt(compile(map), now()), map.spans.length - 1);
}

/** The selected key, where it can be removed: neither the first nor the last. */
export function removableKey({ map, selectedSpan }: PaceContext): number | null {
  return selectedSpan !== null && selectedSpan > 0 && selectedSpan < map.spans.length ? selectedSpan : null;
}
