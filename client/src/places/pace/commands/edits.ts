import ArrowLeft from 'lucide-react-native/icons/arrow-left';
import ArrowLeftRight from 'lucide-react-native/icons/arrow-left-right';
import Bookmark from 'lucide-react-native/icons/bookmark';
import Gauge from 'lucide-react-native/icons/gauge';
import Pencil from 'lucide-react-native/icons/pencil';
import Repeat1 from 'lucide-react-native/icons/repeat-1';
import Scissors from 'lucide-react-native/icons/scissors';
import Snowflake from 'lucide-react-native/icons/snowflake';
import Spline from 'lucide-react-native/icons/spline';
import Tangent from 'lucide-react-native/icons/tangent';
import UnfoldHorizontal from 'lucide-react-native/icons/unfold-horizontal';
import Vibrate from 'lucide-react-native/icons/vibrate';
import {
  FitSheet,
  FreezeSheet,
  RampSheet,
  RampWidthSheet,
  RangeSheet,
  ReplaySheet,
  ReverseSheet,
  SpeedSheet,
} from '../sheets/edits';
import { EaseChosenSheet } from '../sheets/keys-sheet';
import { StutterSheet } from '../sheets/recipes';
import { TrimSheet } from '../sheets/trim-sheet';
import type { PaceCommand } from './context';

/** Edits of speeds. */
export const editCommands = [
  {
    id: 'speed',
    label: 'Speed',
    icon: Gauge,
    bar: 'always',
    key: ['s', 'Speed', 'Shaping speeds'],
    sheet: SpeedSheet,
  },
  {
    id: 'range',
    label: 'Range',
    icon: Bookmark,
    bar: 'wide',
    group: 'Edits',
    key: ['g', 'Pace the range at once', 'Shaping speeds'],
    sheet: RangeSheet,
  },
  { id: 'ramp', label: 'Ramp', icon: Spline, bar: 'always', key: ['r', 'Ramp', 'Shaping speeds'], sheet: RampSheet },
  {
    id: 'ease',
    label: 'Ease',
    icon: Tangent,
    bar: 'wide',
    group: 'Edits',
    key: ['e', 'Ease', 'Shaping speeds'],
    sheet: EaseChosenSheet,
  },
  {
    id: 'freeze',
    label: 'Freeze',
    icon: Snowflake,
    bar: 'always',
    key: ['f', 'Freeze', 'Shaping speeds'],
    sheet: FreezeSheet,
  },
  {
    id: 'reverse',
    label: 'Reverse',
    icon: ArrowLeft,
    bar: 'always',
    key: ['b', 'Reverse', 'Shaping speeds'],
    sheet: ReverseSheet,
  },
  {
    id: 'fit',
    label: 'Fit',
    icon: ArrowLeftRight,
    bar: 'wide',
    group: 'Edits',
    key: ['t', 'Fit the clip', 'Shaping speeds'],
    sheet: FitSheet,
  },
  { id: 'trim', label: 'Trim', icon: Scissors, bar: 'wide', group: 'Edits', sheet: TrimSheet },
  { id: 'ramp-width', label: 'Ramp width', icon: UnfoldHorizontal, group: 'Edits', sheet: RampWidthSheet },
  {
    id: 'draw',
    label: 'Draw',
    icon: Pencil,
    bar: 'wide',
    group: 'Edits',
    key: ['d', 'Draw speeds', 'Shaping speeds'],
    run: ({ curveTo }) => curveTo('draw'),
  },
  { id: 'replay', label: 'Replay', icon: Repeat1, group: 'Edits', sheet: ReplaySheet },
  { id: 'stutter', label: 'Stutter', icon: Vibrate, group: 'Edits', sheet: StutterSheet },
] as const satisfies readonly PaceCommand[];
