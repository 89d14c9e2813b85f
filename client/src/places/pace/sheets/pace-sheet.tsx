import type { ReactNode } from 'react';
import { KeyMap } from '../../../keyboard/key-map';
import { useSession } from '../../../store/hooks';
import { MoreSheet, type ActionsProps } from '../../../ui/action-bar';
import { actionGroups, actionLooks } from '../actions';
import type { PaceAction } from '../actions';
import { TableSheet } from '../ledger/table-sheet';
import { GuideSheet } from '../report/guide-sheet';
import { WarningsSheet } from '../report/warnings-sheet';
import { CourseSheet, ToPositionsSheet, ToSpeedsSheet } from './description-sheets';
import {
  EaseSheet,
  FitSheet,
  FreezeSheet,
  RampSheet,
  RampWidthSheet,
  RangeSheet,
  ReplaySheet,
  ReverseSheet,
  SpeedSheet,
} from './edits';
import type { SheetProps } from './form-sheet';
import { KeySheet } from './key-sheet';
import { EaseKeysSheet } from './keys-sheet';
import { PasteSheet } from './paste-sheet';
import {
  DipSheet,
  RewindSheet,
  StairsSheet,
  StopMotionSheet,
  StutterSheet,
  SurgeSheet,
  ThereAndBackSheet,
  TimeLapseSheet,
} from './recipes';
import { TrimSheet } from './trim-sheet';

const sheets: Partial<Record<PaceAction, (props: SheetProps) => ReactNode>> = {
  speed: SpeedSheet,
  range: RangeSheet,
  ramp: RampSheet,
  'ramp-width': RampWidthSheet,
  ease: EaseSheet,
  freeze: FreezeSheet,
  reverse: ReverseSheet,
  replay: ReplaySheet,
  fit: FitSheet,
  trim: TrimSheet,
  surge: SurgeSheet,
  dip: DipSheet,
  stairs: StairsSheet,
  'there-and-back': ThereAndBackSheet,
  rewind: RewindSheet,
  stutter: StutterSheet,
  'stop-motion': StopMotionSheet,
  'time-lapse': TimeLapseSheet,
  course: CourseSheet,
  'to-speeds': ToSpeedsSheet,
  'to-positions': ToPositionsSheet,
  paste: PasteSheet,
  guide: GuideSheet,
  warnings: WarningsSheet,
};

/** The sheet of an action. */
export function PaceSheet({
  action,
  clipId,
  map,
  onClose,
  disabled,
  onAction,
  pasted,
}: SheetProps & Pick<ActionsProps<PaceAction>, 'disabled' | 'onAction'> & { action: PaceAction; pasted: string }) {
  const { selectedSpan, selectedKeys } = useSession('selectedSpan', 'selectedKeys');
  const props = { clipId, map, onClose };
  if (action === 'more') {
    return <MoreSheet looks={actionLooks} groups={actionGroups} active={null} {...{ disabled, onAction, onClose }} />;
  }
  if (action === 'key-map') return <KeyMap place="pace" onClose={onClose} />;
  if (action === 'table') return <TableSheet key={pasted} {...props} pasted={pasted} />;
  if (action === 'edit-key') {
    return selectedSpan === null ? null : (
      <KeySheet key={selectedSpan} {...props} index={Math.min(selectedSpan, map.spans.length)} />
    );
  }
  if (action === 'ease' && selectedKeys.length > 0) return <EaseKeysSheet key="keys" {...props} keys={selectedKeys} />;
  const Sheet = sheets[action];
  return Sheet ? <Sheet key={action} {...props} /> : null;
}
