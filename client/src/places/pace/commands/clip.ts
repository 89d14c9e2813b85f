import ClipboardPaste from 'lucide-react-native/icons/clipboard-paste';
import Copy from 'lucide-react-native/icons/copy';
import Gauge from 'lucide-react-native/icons/gauge';
import Info from 'lucide-react-native/icons/info';
import Route from 'lucide-react-native/icons/route';
import TriangleAlert from 'lucide-react-native/icons/triangle-alert';
import { compile, kindOf } from '@hastig/core';
import { readyToPaste } from '../../../commands/general';
import { openClip } from '../../../store/selectors';
import {
  copiedFrom,
  keysSelected,
  noticeSet,
  paceViewChosen,
  settingsCopied,
  messageSet,
  type PaceView,
} from '../../../store/session-slice';
import { GuideSheet } from '../report/guide-sheet';
import { WarningsSheet } from '../report/warnings-sheet';
import { ToPositionsSheet, ToSpeedsSheet } from '../sheets/description-sheets';
import { PasteSheet } from '../sheets/paste-sheet';
import { partOf, type PaceCommand, type PaceContext } from './context';

function copy({ dispatch, state, clipId }: PaceContext): void {
  const clip = openClip(state(), clipId)!;
  dispatch(settingsCopied(copiedFrom(clip.clip, clip.map)));
  dispatch(messageSet(`Copied the timing of ${clip.clip.name}. Paste it on this or another clip.`));
}

function zoomSelection(context: PaceContext): void {
  const { state, map, selectedKeys, time } = context;
  const { marks } = state().session;
  const { times, length, count } = compile(map);
  const part = partOf(context);
  if (selectedKeys.length > 0) time.show(times[Math.min(...selectedKeys)]!, times[Math.max(...selectedKeys)]!);
  else if (marks.from !== null || marks.to !== null) time.show(marks.from ?? 0, marks.to ?? length);
  else time.show(times[Math.max(0, part - 1)]!, times[Math.min(count, part + 2)]!);
}

const viewOrder: readonly PaceView[] = ['speed', 'position', 'ledger'];

function nextView({ dispatch, state }: PaceContext): void {
  const { paceView } = state().session;
  dispatch(paceViewChosen(viewOrder[(viewOrder.indexOf(paceView) + 1) % viewOrder.length]!));
}

/** What is done with the clip's whole timing. */
export const clipCommands = [
  {
    id: 'copy',
    label: 'Copy timing',
    icon: Copy,
    group: 'Clip',
    shortcut: ['c', 'Copy timing and settings', 'General'],
    run: copy,
  },
  {
    id: 'paste',
    label: 'Paste timing',
    icon: ClipboardPaste,
    group: 'Clip',
    shortcut: ['shift+c', 'Paste timing and settings', 'General'],
    possible: ({ copied }) => copied !== null,
    ready: readyToPaste,
    sheet: PasteSheet,
  },
  { id: 'to-speeds', label: 'Convert to speeds', icon: Gauge, group: 'Clip', sheet: ToSpeedsSheet },
  { id: 'to-positions', label: 'Convert to positions', icon: Route, group: 'Clip', sheet: ToPositionsSheet },
] as const satisfies readonly PaceCommand[];

/** What is looked at, not changed. */
// Of sound there is no frame to repeat or to skip.
function showsFrames({ state, clipId }: PaceContext): boolean {
  const source = openClip(state(), clipId)?.source;
  return !source || kindOf(source.facts) !== 'sound';
}

function tellNoFrames(context: PaceContext): boolean {
  if (showsFrames(context)) return true;
  context.dispatch(noticeSet('Sound has no frames, so it has no cadence.'));
  return false;
}

export const lookCommands = [
  {
    id: 'guide',
    label: 'Cadence',
    icon: Info,
    group: 'Inspect',
    shortcut: ['1', 'Floor and cadence', 'View'],
    possible: showsFrames,
    ready: tellNoFrames,
    sheet: GuideSheet,
  },
  {
    id: 'warnings',
    label: 'Warnings',
    icon: TriangleAlert,
    group: 'Inspect',
    shortcut: ['2', 'Warnings', 'View'],
    sheet: WarningsSheet,
  },
  { id: 'view', shortcut: ['v', 'Switch between speed, positions and ledger', 'View'], run: nextView },
  { id: 'zoom-selection', shortcut: ['z', 'Zoom to selection', 'View'], run: zoomSelection },
  {
    id: 'close',
    shortcut: ['Escape', 'Close sheet or leave mode', 'General'],
    run: ({ end, dispatch }) => {
      end();
      dispatch(keysSelected([]));
    },
  },
] as const satisfies readonly PaceCommand[];
