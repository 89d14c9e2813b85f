import ArrowLeftRight from 'lucide-react-native/icons/arrow-left-right';
import Bookmark from 'lucide-react-native/icons/bookmark';
import SquareDashed from 'lucide-react-native/icons/square-dashed';
import Table2 from 'lucide-react-native/icons/table-2';
import ClipboardPaste from 'lucide-react-native/icons/clipboard-paste';
import Copy from 'lucide-react-native/icons/copy';
import Diamond from 'lucide-react-native/icons/diamond';
import Ellipsis from 'lucide-react-native/icons/ellipsis';
import TriangleAlert from 'lucide-react-native/icons/triangle-alert';
import Footprints from 'lucide-react-native/icons/footprints';
import Gauge from 'lucide-react-native/icons/gauge';
import ThereBack from 'lucide-react-native/icons/arrow-right-left';
import Info from 'lucide-react-native/icons/info';
import Keyboard from 'lucide-react-native/icons/keyboard';
import Lock from 'lucide-react-native/icons/lock';
import Mountain from 'lucide-react-native/icons/mountain';
import Pencil from 'lucide-react-native/icons/pencil';
import Pin from 'lucide-react-native/icons/pin';
import Repeat1 from 'lucide-react-native/icons/repeat-1';
import Rewind from 'lucide-react-native/icons/rewind';
import Route from 'lucide-react-native/icons/route';
import Ruler from 'lucide-react-native/icons/ruler';
import Scissors from 'lucide-react-native/icons/scissors';
import Snowflake from 'lucide-react-native/icons/snowflake';
import Spline from 'lucide-react-native/icons/spline';
import StairsUp from 'lucide-react-native/icons/chart-no-axes-column-increasing';
import UnfoldHorizontal from 'lucide-react-native/icons/unfold-horizontal';
import Tangent from 'lucide-react-native/icons/tangent';
import Timer from 'lucide-react-native/icons/timer';
import Trash from 'lucide-react-native/icons/trash';
import ArrowLeft from 'lucide-react-native/icons/arrow-left';
import Vibrate from 'lucide-react-native/icons/vibrate';
import Valley from 'lucide-react-native/icons/chevrons-down';
import type { ActionLook } from '../../ui/action-bar';

/** Everything the place Pace can start: an edit at once, a way of using the curve, or a sheet. */
export type PaceAction =
  | 'key'
  | 'edit-key'
  | 'remove-key'
  | 'pin'
  | 'lock'
  | 'speed'
  | 'range'
  | 'ramp'
  | 'ramp-width'
  | 'ease'
  | 'freeze'
  | 'reverse'
  | 'replay'
  | 'fit'
  | 'trim'
  | 'draw'
  | 'select'
  | 'course'
  | 'table'
  | 'to-speeds'
  | 'to-positions'
  | 'surge'
  | 'dip'
  | 'stairs'
  | 'there-and-back'
  | 'rewind'
  | 'stutter'
  | 'stop-motion'
  | 'time-lapse'
  | 'copy'
  | 'paste'
  | 'guide'
  | 'warnings'
  | 'key-map'
  | 'more';

/** Names and icons of the actions. */
export const actionLooks: Record<PaceAction, ActionLook> = {
  key: { label: 'Key', icon: Diamond },
  'edit-key': { label: 'Key numbers', icon: Ruler },
  'remove-key': { label: 'Remove key', icon: Trash },
  pin: { label: 'Pin', icon: Pin },
  lock: { label: 'Lock', icon: Lock },
  speed: { label: 'Speed', icon: Gauge },
  range: { label: 'Range', icon: Bookmark },
  ramp: { label: 'Ramp', icon: Spline },
  'ramp-width': { label: 'Ramp width', icon: UnfoldHorizontal },
  ease: { label: 'Ease', icon: Tangent },
  freeze: { label: 'Freeze', icon: Snowflake },
  reverse: { label: 'Reverse', icon: ArrowLeft },
  replay: { label: 'Replay', icon: Repeat1 },
  fit: { label: 'Fit', icon: ArrowLeftRight },
  trim: { label: 'Trim', icon: Scissors },
  draw: { label: 'Draw', icon: Pencil },
  select: { label: 'Choose keys', icon: SquareDashed },
  course: { label: 'Course', icon: Route },
  table: { label: 'Paste table', icon: Table2 },
  'to-speeds': { label: 'As speeds', icon: Gauge },
  'to-positions': { label: 'As positions', icon: Route },
  surge: { label: 'Surge', icon: Mountain },
  dip: { label: 'Dip', icon: Valley },
  stairs: { label: 'Stairs', icon: StairsUp },
  'there-and-back': { label: 'There & back', icon: ThereBack },
  rewind: { label: 'Rewind', icon: Rewind },
  stutter: { label: 'Stutter', icon: Vibrate },
  'stop-motion': { label: 'Stop-motion', icon: Footprints },
  'time-lapse': { label: 'Time-lapse', icon: Timer },
  copy: { label: 'Copy timing', icon: Copy },
  paste: { label: 'Paste timing', icon: ClipboardPaste },
  guide: { label: 'Guide', icon: Info },
  warnings: { label: 'Warnings', icon: TriangleAlert },
  'key-map': { label: 'Keys', icon: Keyboard },
  more: { label: 'More', icon: Ellipsis },
};

/** What the bar at the thumb has on a phone; all else is behind “More”. */
export const thumbActions: readonly PaceAction[] = ['key', 'speed', 'ramp', 'freeze', 'reverse', 'more'];

/** What the bar has on a wide screen. */
export const deskActions: readonly PaceAction[] = [
  'key',
  'speed',
  'range',
  'ramp',
  'ease',
  'freeze',
  'reverse',
  'fit',
  'trim',
  'draw',
  'select',
  'more',
];

/** Everything, by what it is about. */
export const actionGroups: readonly { name: string; actions: readonly PaceAction[] }[] = [
  {
    name: 'Edits',
    actions: ['range', 'fit', 'trim', 'ease', 'ramp-width', 'draw', 'replay', 'stutter'],
  },
  {
    name: 'Recipes',
    actions: ['surge', 'dip', 'stairs', 'there-and-back', 'rewind', 'stop-motion', 'time-lapse'],
  },
  { name: 'Keys', actions: ['edit-key', 'remove-key', 'pin', 'lock', 'select', 'course', 'table'] },
  { name: 'Clip', actions: ['copy', 'paste', 'to-speeds', 'to-positions'] },
  { name: 'Look', actions: ['guide', 'warnings', 'key-map'] },
];
