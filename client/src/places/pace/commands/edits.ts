import ArrowLeft from 'lucide-react-native/icons/arrow-left';
import ArrowLeftRight from 'lucide-react-native/icons/arrow-left-right';
import Bookmark from 'lucide-react-native/icons/bookmark';
import Gauge from 'lucide-react-native/icons/gauge';
import Pencil from 'lucide-react-native/icons/pencil';
import Repeat1 from 'lucide-react-native/icons/repeat-1';
import Scissors from 'lucide-react-native/icons/scissors';
import Spline from 'lucide-react-native/icons/spline';
import Tangent from 'lucide-react-native/icons/tangent';
import UnfoldHorizontal from 'lucide-react-native/icons/unfold-horizontal';
import Vibrate from 'lucide-react-native/icons/vibrate';
import { HeldFrameIcon } from '../../../ui/held-frame-icon';
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
    shortcut: ['s', 'Speed', 'Retiming'],
    sheet: SpeedSheet,
  },
  {
    id: 'range',
    label: 'Set range',
    icon: Bookmark,
    bar: 'wide',
    group: 'Edits',
    shortcut: ['g', 'Set range', 'Retiming'],
    sheet: RangeSheet,
  },
  { id: 'ramp', label: 'Ramp', icon: Spline, bar: 'always', shortcut: ['r', 'Ramp', 'Retiming'], sheet: RampSheet },
  {
    id: 'ease',
    label: 'Ease',
    icon: Tangent,
    bar: 'wide',
    group: 'Edits',
    shortcut: ['e', 'Ease', 'Retiming'],
    sheet: EaseChosenSheet,
  },
  {
    id: 'freeze',
    label: 'Freeze',
    icon: HeldFrameIcon,
    bar: 'always',
    shortcut: ['f', 'Freeze', 'Retiming'],
    sheet: FreezeSheet,
  },
  {
    id: 'reverse',
    label: 'Reverse',
    icon: ArrowLeft,
    bar: 'always',
    shortcut: ['b', 'Reverse', 'Retiming'],
    sheet: ReverseSheet,
  },
  {
    id: 'fit',
    label: 'Fit',
    icon: ArrowLeftRight,
    bar: 'wide',
    group: 'Edits',
    shortcut: ['t', 'Fit to duration', 'Retiming'],
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
    shortcut: ['d', 'Draw speed', 'Retiming'],
    run: ({ curveTo }) => curveTo('draw'),
  },
  { id: 'replay', label: 'Replay', icon: Repeat1, group: 'Edits', sheet: ReplaySheet },
  { id: 'stutter', label: 'Stutter', icon: Vibrate, group: 'Edits', sheet: StutterSheet },
] as const satisfies readonly PaceCommand[];
