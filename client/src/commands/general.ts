import BracketsIn from 'lucide-react-native/icons/arrow-right-from-line';
import BracketsOut from 'lucide-react-native/icons/arrow-right-to-line';
import Ellipsis from 'lucide-react-native/icons/ellipsis';
import Keyboard from 'lucide-react-native/icons/keyboard';
import Maximize from 'lucide-react-native/icons/maximize';
import Play from 'lucide-react-native/icons/play';
import Repeat from 'lucide-react-native/icons/repeat';
import SkipBack from 'lucide-react-native/icons/skip-back';
import SkipForward from 'lucide-react-native/icons/skip-forward';
import StepBack from 'lucide-react-native/icons/step-back';
import StepForward from 'lucide-react-native/icons/step-forward';
import X from 'lucide-react-native/icons/x';
import type { StageControls } from '../stage/stage-context';
import { redone, undone } from '../store/project-slice';
import {
  fullScreenToggled,
  loopToggled,
  marked,
  marksCleared,
  noticeSet,
  snapToggled,
  unitCycled,
  type SessionState,
} from '../store/session-slice';
import type { AppDispatch } from '../store/store';
import type { TimeControl } from '../time-view/use-time-view';
import type { Command } from './command';
import { MORE } from './use-commands';

/** What commands of every place work on. */
export interface GeneralContext {
  dispatch: AppDispatch;
  stage: StageControls;
}

/** Playing and moving about, wherever a stage is. */
export const movingCommands = [
  {
    id: 'play',
    label: 'Play',
    icon: Play,
    shortcut: ['space', 'Play or pause', 'Playback'],
    run: ({ stage }) => stage.toggle(),
  },
  {
    id: 'frame-on',
    label: 'Next frame',
    icon: StepForward,
    shortcut: ['ArrowRight', 'Next frame', 'Playback'],
    run: ({ stage }) => stage.step(1),
  },
  {
    id: 'frame-back',
    label: 'Previous frame',
    icon: StepBack,
    shortcut: ['ArrowLeft', 'Previous frame', 'Playback'],
    run: ({ stage }) => stage.step(-1),
  },
  {
    id: 'ten-on',
    shortcut: ['shift+ArrowRight', 'Forward ten frames', 'Playback'],
    run: ({ stage }) => stage.step(10),
  },
  { id: 'ten-back', shortcut: ['shift+ArrowLeft', 'Back ten frames', 'Playback'], run: ({ stage }) => stage.step(-10) },
  {
    id: 'shuttle-on',
    shortcut: ['l', 'Play forwards, faster with each press', 'Playback'],
    run: ({ stage }) => stage.shuttle(1),
  },
  { id: 'shuttle-stop', shortcut: ['k', 'Stop', 'Playback'], run: ({ stage }) => stage.shuttle(0) },
  {
    id: 'shuttle-back',
    shortcut: ['j', 'Play backwards, faster with each press', 'Playback'],
    run: ({ stage }) => stage.shuttle(-1),
  },
  {
    id: 'first-frame',
    label: 'First frame',
    icon: SkipBack,
    shortcut: ['Home', 'First frame', 'Playback'],
    run: ({ stage }) => stage.seek(0),
  },
  {
    id: 'last-frame',
    label: 'Last frame',
    icon: SkipForward,
    shortcut: ['End', 'Last frame', 'Playback'],
    run: ({ stage }) => stage.seek(Number.MAX_SAFE_INTEGER),
  },
  {
    id: 'loop',
    label: 'Loop',
    icon: Repeat,
    shortcut: ['q', 'Loop on/off', 'Playback'],
    run: ({ dispatch }) => dispatch(loopToggled()),
  },
  {
    id: 'full-screen',
    label: 'Full screen',
    icon: Maximize,
    shortcut: ['shift+f', 'Full screen on/off', 'View'],
    run: ({ dispatch }) => dispatch(fullScreenToggled()),
  },
  { id: 'unit', shortcut: ['y', 'Switch time units', 'View'], run: ({ dispatch }) => dispatch(unitCycled()) },
] as const satisfies readonly Command<GeneralContext>[];

/** Undo and redo, wherever a project is open. */
export const historyCommands: readonly Command<AppDispatch>[] = [
  { id: 'undo', shortcut: ['mod+z', 'Undo', 'General'], run: (dispatch) => dispatch(undone()) },
  { id: 'redo', shortcut: ['mod+shift+z', 'Redo', 'General'], run: (dispatch) => dispatch(redone()) },
  { id: 'redo-too', shortcut: ['mod+y', 'Redo', 'General'], run: (dispatch) => dispatch(redone()) },
];

/** Whether something was copied that can be pasted; says so where nothing was. */
export function readyToPaste({ copied, dispatch }: Pick<SessionState, 'copied'> & { dispatch: AppDispatch }): boolean {
  if (!copied) dispatch(noticeSet('Nothing to paste. Copy a clip’s settings first.'));
  return copied !== null;
}

/** What places with marks and a view of time work on. */
export interface TimeContext {
  dispatch: AppDispatch;
  time: TimeControl;
  /** The playhead; read when it is needed, since it moves with every frame while playing. */
  now(): number;
}

const zoomed = ({ time }: TimeContext, by: number): void => time.zoomAt(time.view.width / 2, by);

/** The marks of a range. */
export const markCommands = [
  {
    id: 'mark-in',
    label: 'Mark in',
    icon: BracketsIn,
    shortcut: ['i', 'Mark in', 'Range'],
    run: ({ dispatch, now }) => dispatch(marked({ side: 'from', at: now() })),
  },
  {
    id: 'mark-out',
    label: 'Mark out',
    icon: BracketsOut,
    shortcut: ['o', 'Mark out', 'Range'],
    run: ({ dispatch, now }) => dispatch(marked({ side: 'to', at: now() + 1 })),
  },
  {
    id: 'clear-marks',
    label: 'Clear in and out',
    icon: X,
    shortcut: ['x', 'Clear in and out', 'Range'],
    run: ({ dispatch }) => dispatch(marksCleared()),
  },
] as const satisfies readonly Command<Pick<TimeContext, 'dispatch' | 'now'>>[];

/** The marks of a range, and how closely one looks. */
export const timeCommands = [
  ...markCommands,
  { id: 'zoom-in', shortcut: ['+', 'Zoom in', 'View'], run: (context) => zoomed(context, 1.5) },
  { id: 'zoom-out', shortcut: ['-', 'Zoom out', 'View'], run: (context) => zoomed(context, 1 / 1.5) },
  { id: 'zoom-all', shortcut: ['0', 'Zoom to fit', 'View'], run: ({ time }) => time.showAll() },
  {
    id: 'snap',
    shortcut: ['w', 'Snap on/off (hold Alt to bypass)', 'View'],
    run: ({ dispatch }) => dispatch(snapToggled()),
  },
] as const satisfies readonly Command<TimeContext>[];

/**
 * The list of keys, and the way to all that is in no bar; both open sheets that are alike everywhere.
 *
 * @param group what the list of keys stands under behind “More”
 */
export const leadingCommands = (group: string) =>
  [
    { id: 'shortcuts', label: 'Shortcuts', icon: Keyboard, group, shortcut: ['?', 'Show shortcuts', 'General'] },
    { id: MORE, label: 'More', icon: Ellipsis, bar: 'always' },
  ] as const satisfies readonly Command<object>[];
