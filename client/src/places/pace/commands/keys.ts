import { addKey, compile, keysOf, lockPart, pin, pinAt, removeKeys, unpin } from '@hastig/core';
import Diamond from 'lucide-react-native/icons/diamond';
import Lock from 'lucide-react-native/icons/lock';
import Pin from 'lucide-react-native/icons/pin';
import Route from 'lucide-react-native/icons/route';
import Ruler from 'lucide-react-native/icons/ruler';
import SquareDashed from 'lucide-react-native/icons/square-dashed';
import Table2 from 'lucide-react-native/icons/table-2';
import Trash from 'lucide-react-native/icons/trash';
import { retime } from '../../../store/edit';
import { openClip } from '../../../store/selectors';
import { noticeSet, spanSelected } from '../../../store/session-slice';
import { TableSheet } from '../ledger/table-sheet';
import { CourseSheet } from '../sheets/description-sheets';
import { SelectedKeySheet } from '../sheets/key-sheet';
import { partOf, removableKey, type PaceCommand, type PaceContext } from './context';

function addKeyHere({ dispatch, clipId, now, state }: PaceContext): void {
  const at = now();
  dispatch(retime('add a key', clipId, (before) => addKey(before, at)));
  const key = keysOf(openClip(state(), clipId)!.map).findIndex(({ output }) => Math.abs(output - at) < 1e-6);
  dispatch(spanSelected(key > 0 ? key : null));
}

function removeChosen(context: PaceContext): void {
  const { dispatch, clipId, selectedKeys } = context;
  const removable = removableKey(context);
  const keys = selectedKeys.length > 0 ? selectedKeys : removable === null ? [] : [removable];
  if (keys.length > 0) dispatch(retime('remove a key', clipId, (before) => removeKeys(before, keys)));
  dispatch(spanSelected(null));
}

function togglePin({ dispatch, clipId, map, selectedSpan, now }: PaceContext): void {
  const at = selectedSpan === null ? now() : compile(map).times[selectedSpan]!;
  dispatch(
    retime(pinAt(map, at) ? 'unpin' : 'pin', clipId, (before) =>
      pinAt(before, at) ? unpin(before, at) : pin(before, at),
    ),
  );
}

function toggleLock(context: PaceContext): void {
  const { dispatch, clipId, map } = context;
  const index = partOf(context);
  const locked = !map.spans[index]!.locked;
  dispatch(retime(locked ? 'lock' : 'unlock', clipId, (before) => lockPart(before, index, locked)));
}

const toKey =
  (way: 1 | -1) =>
  ({ map, now, seek }: PaceContext): void => {
    const outputs = keysOf(map).map(({ output }) => Math.ceil(output - 1e-6));
    const at = now();
    const next = way === 1 ? outputs.find((output) => output > at) : outputs.findLast((output) => output < at);
    if (next !== undefined) seek(next);
  };

export const newKeyCommand = {
  id: 'key',
  label: 'Add key',
  icon: Diamond,
  bar: 'always',
  shortcut: ['n', 'Add key at playhead', 'Retiming'],
  run: addKeyHere,
} as const satisfies PaceCommand;

/** What keys are, one by one. */
export const keyCommands = [
  { id: 'next-key', shortcut: ['.', 'Next key', 'Retiming'], run: toKey(1) },
  { id: 'previous-key', shortcut: [',', 'Previous key', 'Retiming'], run: toKey(-1) },
  {
    id: 'edit-key',
    label: 'Edit key',
    icon: Ruler,
    group: 'Keys',
    shortcut: ['m', 'Edit selected key', 'Retiming'],
    possible: ({ selectedSpan }) => selectedSpan !== null,
    ready: ({ selectedSpan, dispatch }) => {
      if (selectedSpan === null) dispatch(noticeSet('Select a key first.'));
      return selectedSpan !== null;
    },
    sheet: SelectedKeySheet,
  },
  {
    id: 'remove-key',
    label: 'Remove key',
    icon: Trash,
    group: 'Keys',
    shortcut: ['Delete', 'Remove selected keys', 'Retiming'],
    possible: (context) => removableKey(context) !== null || context.selectedKeys.length > 0,
    run: removeChosen,
  },
  {
    id: 'pin',
    label: 'Pin',
    icon: Pin,
    group: 'Keys',
    shortcut: ['p', 'Pin or unpin frame at playhead', 'Retiming'],
    run: togglePin,
  },
  {
    id: 'lock',
    label: 'Lock',
    icon: Lock,
    group: 'Keys',
    shortcut: ['u', 'Lock or unlock part', 'Retiming'],
    run: toggleLock,
  },
  {
    id: 'select',
    label: 'Select keys',
    icon: SquareDashed,
    bar: 'wide',
    group: 'Keys',
    shortcut: ['h', 'Select keys with a box', 'Retiming'],
    run: ({ curveTo }) => curveTo('select'),
  },
  { id: 'course', label: 'Interpolation', icon: Route, group: 'Keys', sheet: CourseSheet },
  { id: 'table', label: 'Paste table', icon: Table2, group: 'Keys', sheet: TableSheet },
] as const satisfies readonly PaceCommand[];
