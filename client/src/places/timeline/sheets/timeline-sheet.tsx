import { findClip } from '@hastig/core';
import { KeyMap } from '../../../keyboard/key-map';
import { useAppSelector, useSession } from '../../../store/hooks';
import { MoreSheet, type ActionsProps } from '../../../ui/action-bar';
import { actionGroups, actionLooks, type TimelineAction } from '../actions';
import { aimedClips } from '../use-timeline-actions';
import { AddSheet } from './add-sheet';
import { ClipSheet } from './clip-sheet';
import { FillGapSheet, JoinSheet, ReplaceSheet, SlipSheet, type OneClipProps } from './edit-sheets';
import { MarkersSheet } from './markers-sheet';
import { PasteSheet } from './paste-sheet';
import { PictureSheet } from './picture-sheet';
import { SequenceSheet } from './sequence-sheet';
import { TracksSheet } from './tracks-sheet';

const oneClipSheets: Partial<Record<TimelineAction, (props: OneClipProps) => React.ReactNode>> = {
  clip: ClipSheet,
  slip: SlipSheet,
  'fill-gap': FillGapSheet,
  replace: ReplaceSheet,
  join: JoinSheet,
};

export interface TimelineSheetProps extends Pick<ActionsProps<TimelineAction>, 'disabled' | 'onAction'> {
  action: TimelineAction;
  containerId: string;
  onClose(): void;
}

/** The sheet of an action. */
export function TimelineSheet({ action, containerId, disabled, onAction, onClose }: TimelineSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const { selectedClips, playhead } = useSession('selectedClips', 'playhead');
  const aimed = aimedClips(project, containerId, selectedClips, playhead);
  switch (action) {
    case 'more':
      return <MoreSheet looks={actionLooks} groups={actionGroups} active={null} {...{ disabled, onAction, onClose }} />;
    case 'key-map':
      return <KeyMap place="timeline" onClose={onClose} />;
    case 'add':
      return <AddSheet {...{ containerId, onClose }} />;
    case 'markers':
      return <MarkersSheet {...{ containerId, onClose }} />;
    case 'tracks':
      return <TracksSheet {...{ containerId, onClose }} />;
    case 'sequence':
      return <SequenceSheet onClose={onClose} />;
    case 'paste':
      return <PasteSheet clipIds={aimed} onClose={onClose} />;
    case 'picture':
      return aimed.length > 0 ? <PictureSheet key={aimed.join(' ')} clipIds={aimed} onClose={onClose} /> : null;
  }
  const Sheet = oneClipSheets[action];
  const [clipId] = aimed;
  const clip = clipId ? findClip(project, clipId) : undefined;
  return Sheet && clip ? <Sheet key={`${action} ${clip.id}`} clip={clip} onClose={onClose} /> : null;
}
