import Blend from 'lucide-react-native/icons/git-merge';
import Bookmark from 'lucide-react-native/icons/bookmark';
import ClipboardPaste from 'lucide-react-native/icons/clipboard-paste';
import Copy from 'lucide-react-native/icons/copy';
import CopyPlus from 'lucide-react-native/icons/copy-plus';
import Ellipsis from 'lucide-react-native/icons/ellipsis';
import Gauge from 'lucide-react-native/icons/gauge';
import Group from 'lucide-react-native/icons/group';
import Keyboard from 'lucide-react-native/icons/keyboard';
import Layers from 'lucide-react-native/icons/layers';
import ListOrdered from 'lucide-react-native/icons/list-ordered';
import ListPlus from 'lucide-react-native/icons/list-plus';
import LogIn from 'lucide-react-native/icons/log-in';
import MoveHorizontal from 'lucide-react-native/icons/move-horizontal';
import PictureInPicture from 'lucide-react-native/icons/picture-in-picture-2';
import Plus from 'lucide-react-native/icons/plus';
import Replace from 'lucide-react-native/icons/replace';
import Ruler from 'lucide-react-native/icons/ruler';
import Scissors from 'lucide-react-native/icons/scissors';
import Settings2 from 'lucide-react-native/icons/settings-2';
import SquareDashed from 'lucide-react-native/icons/square-dashed';
import BeginHere from 'lucide-react-native/icons/arrow-right-from-line';
import EndHere from 'lucide-react-native/icons/arrow-right-to-line';
import Trash from 'lucide-react-native/icons/trash';
import ArrowUpFromLine from 'lucide-react-native/icons/arrow-up-from-line';
import Ungroup from 'lucide-react-native/icons/ungroup';
import CopyCheck from 'lucide-react-native/icons/copy-check';
import Fill from 'lucide-react-native/icons/arrow-left-right';
import type { ActionLook } from '../../ui/action-bar';

/** What is done on the timeline. */
export type TimelineAction =
  | 'add'
  | 'split'
  | 'remove'
  | 'lift'
  | 'duplicate'
  | 'clip'
  | 'pace'
  | 'begin-here'
  | 'end-here'
  | 'slip'
  | 'replace'
  | 'fill-gap'
  | 'picture'
  | 'several'
  | 'all'
  | 'group'
  | 'ungroup'
  | 'open'
  | 'own'
  | 'join'
  | 'copy'
  | 'paste'
  | 'marker'
  | 'markers'
  | 'tracks'
  | 'sequence'
  | 'key-map'
  | 'more';

export const actionLooks: Record<TimelineAction, ActionLook> = {
  add: { label: 'Add', icon: Plus },
  split: { label: 'Split', icon: Scissors },
  remove: { label: 'Remove', icon: Trash },
  lift: { label: 'Lift out', icon: ArrowUpFromLine },
  duplicate: { label: 'Duplicate', icon: CopyPlus },
  clip: { label: 'Clip', icon: Ruler },
  pace: { label: 'Pace', icon: Gauge },
  'begin-here': { label: 'Begin here', icon: BeginHere },
  'end-here': { label: 'End here', icon: EndHere },
  slip: { label: 'Slip', icon: MoveHorizontal },
  replace: { label: 'Replace', icon: Replace },
  'fill-gap': { label: 'Fill a gap', icon: Fill },
  picture: { label: 'Picture', icon: PictureInPicture },
  several: { label: 'Choose more', icon: SquareDashed },
  all: { label: 'Choose all', icon: CopyCheck },
  group: { label: 'Group', icon: Group },
  ungroup: { label: 'Ungroup', icon: Ungroup },
  open: { label: 'Open group', icon: LogIn },
  own: { label: 'Make its own', icon: Layers },
  join: { label: 'Join', icon: Blend },
  copy: { label: 'Copy settings', icon: Copy },
  paste: { label: 'Paste', icon: ClipboardPaste },
  marker: { label: 'Marker', icon: Bookmark },
  markers: { label: 'Markers', icon: ListOrdered },
  tracks: { label: 'Tracks', icon: ListPlus },
  sequence: { label: 'Sequence', icon: Settings2 },
  'key-map': { label: 'Keys', icon: Keyboard },
  more: { label: 'More', icon: Ellipsis },
};

/** What the bar at the thumb has on a phone; all else is behind “More”. */
export const thumbActions: readonly TimelineAction[] = ['add', 'split', 'clip', 'remove', 'marker', 'more'];

export const deskActions: readonly TimelineAction[] = [
  'add',
  'split',
  'begin-here',
  'end-here',
  'clip',
  'picture',
  'slip',
  'duplicate',
  'remove',
  'group',
  'join',
  'marker',
  'more',
];

export const actionGroups: readonly { name: string; actions: readonly TimelineAction[] }[] = [
  {
    name: 'Clip',
    actions: ['clip', 'picture', 'pace', 'begin-here', 'end-here', 'slip', 'replace', 'fill-gap', 'duplicate', 'lift'],
  },
  { name: 'Several', actions: ['several', 'all', 'group', 'ungroup', 'open', 'own', 'join', 'copy', 'paste'] },
  { name: 'Sequence', actions: ['markers', 'tracks', 'sequence', 'key-map'] },
];
