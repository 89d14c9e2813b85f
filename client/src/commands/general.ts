import Ellipsis from 'lucide-react-native/icons/ellipsis';
import Keyboard from 'lucide-react-native/icons/keyboard';
import type { StageControls } from '../stage/stage-context';
import { redone, undone } from '../store/project-slice';
import {
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
interface GeneralContext {
  dispatch: AppDispatch;
  stage: StageControls;
}

/** Playing and moving about, wherever a stage is. */
export const movingCommands: readonly Command<GeneralContext>[] = [
  { id: 'play', key: ['space', 'Play or pause', 'Moving'], run: ({ stage }) => stage.toggle() },
  { id: 'frame-on', key: ['ArrowRight', 'One frame on', 'Moving'], run: ({ stage }) => stage.step(1) },
  { id: 'frame-back', key: ['ArrowLeft', 'One frame back', 'Moving'], run: ({ stage }) => stage.step(-1) },
  { id: 'ten-on', key: ['shift+ArrowRight', 'Ten frames on', 'Moving'], run: ({ stage }) => stage.step(10) },
  { id: 'ten-back', key: ['shift+ArrowLeft', 'Ten frames back', 'Moving'], run: ({ stage }) => stage.step(-10) },
  { id: 'shuttle-on', key: ['l', 'Play on, faster each time', 'Moving'], run: ({ stage }) => stage.shuttle(1) },
  { id: 'shuttle-stop', key: ['k', 'Stop', 'Moving'], run: ({ stage }) => stage.shuttle(0) },
  {
    id: 'shuttle-back',
    key: ['j', 'Play backwards, faster each time', 'Moving'],
    run: ({ stage }) => stage.shuttle(-1),
  },
  { id: 'first-frame', key: ['Home', 'To the first frame', 'Moving'], run: ({ stage }) => stage.seek(0) },
  {
    id: 'last-frame',
    key: ['End', 'To the last frame', 'Moving'],
    run: ({ stage }) => stage.seek(Number.MAX_SAFE_INTEGER),
  },
  { id: 'loop', key: ['q', 'Loop on or off', 'Moving'], run: ({ dispatch }) => dispatch(loopToggled()) },
  { id: 'unit', key: ['y', 'Timecode, frames, seconds', 'Seeing'], run: ({ dispatch }) => dispatch(unitCycled()) },
];

/** Undo and redo, wherever a project is open. */
export const historyCommands: readonly Command<AppDispatch>[] = [
  { id: 'undo', key: ['mod+z', 'Undo', 'Always'], run: (dispatch) => dispatch(undone()) },
  { id: 'redo', key: ['mod+shift+z', 'Redo', 'Always'], run: (dispatch) => dispatch(redone()) },
  { id: 'redo-too', key: ['mod+y', 'Redo', 'Always'], run: (dispatch) => dispatch(redone()) },
];

/** Whether something was copied that can be pasted; says so where nothing was. */
export function readyToPaste({ copied, dispatch }: Pick<SessionState, 'copied'> & { dispatch: AppDispatch }): boolean {
  if (!copied) dispatch(noticeSet('Nothing is copied yet. Copy the settings of a clip first.'));
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

/** The marks of a range, and how closely one looks. */
export const timeCommands = [
  {
    id: 'mark-in',
    key: ['i', 'Mark in at the playhead', 'Range'],
    run: ({ dispatch, now }) => dispatch(marked({ side: 'from', at: now() })),
  },
  {
    id: 'mark-out',
    key: ['o', 'Mark out at the playhead', 'Range'],
    run: ({ dispatch, now }) => dispatch(marked({ side: 'to', at: now() + 1 })),
  },
  { id: 'clear-marks', key: ['x', 'Clear the marks', 'Range'], run: ({ dispatch }) => dispatch(marksCleared()) },
  { id: 'zoom-in', key: ['+', 'Closer', 'Seeing'], run: (context) => zoomed(context, 1.5) },
  { id: 'zoom-out', key: ['-', 'Further away', 'Seeing'], run: (context) => zoomed(context, 1 / 1.5) },
  { id: 'zoom-all', key: ['0', 'All of it', 'Seeing'], run: ({ time }) => time.showAll() },
  {
    id: 'snap',
    key: ['w', 'Snapping on or off (Alt holds it off)', 'Seeing'],
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
    { id: 'key-map', label: 'Keys', icon: Keyboard, group, key: ['?', 'This map of keys', 'Always'] },
    { id: MORE, label: 'More', icon: Ellipsis, bar: 'always' },
  ] as const satisfies readonly Command<object>[];
