import Aperture from 'lucide-react-native/icons/aperture';
import Circle from 'lucide-react-native/icons/circle';
import CircleDot from 'lucide-react-native/icons/circle-dot';
import Contrast from 'lucide-react-native/icons/contrast';
import Diff from 'lucide-react-native/icons/diff';
import Eraser from 'lucide-react-native/icons/eraser';
import Rewind from 'lucide-react-native/icons/rewind';
import MoveUpRight from 'lucide-react-native/icons/move-up-right';
import SquareSplitHorizontal from 'lucide-react-native/icons/square-split-horizontal';
import { setExposures, withBase } from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import type { StageLook } from '@hastig/engine';
import { leadingCommands, timeCommands } from '../../../commands/general';
import { rearrange } from '../../../store/edit';
import { lookChosen } from '../../../store/stage-slice';
import { ExposureSheet } from '../sheets/exposure-sheet';
import type { PictureCommand, PictureContext } from './context';

const shutter =
  (angle: number) =>
  ({ clip, dispatch }: PictureContext): void => {
    dispatch(
      rearrange(angle > 0 ? `open the shutter ${angle}°` : 'close the shutter', (project) =>
        setExposures(project, { clips: [clip.id] }, (steps) => withBase(steps, { shutter: angle }, nanoid(12))),
      ),
    );
  };

function clear({ clip, dispatch }: PictureContext): void {
  dispatch(rearrange('remove exposures', (project) => setExposures(project, { clips: [clip.id] }, () => [])));
}

function zoomMarks({ time, state }: PictureContext): void {
  const { from, to } = state().session.marks;
  if (from !== null && to !== null) time.show(from, to);
}

/** Looks at the picture in a way, or as it is made again. */
const look =
  (wanted: StageLook) =>
  ({ dispatch, state }: PictureContext): void => {
    const now = state().stage.look.kind;
    dispatch(lookChosen(now === wanted.kind ? { kind: 'made' } : wanted));
  };

/** Everything that can be started in Picture, in the order of its bar. */
export const pictureCommands = [
  {
    id: 'exposure',
    label: 'Exposure',
    icon: Aperture,
    bar: 'always',
    group: 'Exposure',
    shortcut: ['e', 'Add exposure', 'Picture'],
    sheet: ExposureSheet,
  },
  {
    id: 'closed',
    label: 'Closed',
    icon: CircleDot,
    bar: 'always',
    group: 'Shutter',
    shortcut: ['c', 'Close the shutter', 'Picture'],
    run: shutter(0),
  },
  {
    id: 'half',
    label: '180°',
    icon: Contrast,
    bar: 'always',
    group: 'Shutter',
    shortcut: ['h', 'Shutter 180°', 'Picture'],
    run: shutter(180),
  },
  {
    id: 'full',
    label: '360°',
    icon: Circle,
    bar: 'always',
    group: 'Shutter',
    shortcut: ['f', 'Shutter 360°', 'Picture'],
    run: shutter(360),
  },
  {
    id: 'clear',
    label: 'Remove all',
    icon: Eraser,
    bar: 'always',
    group: 'Exposure',
    possible: ({ clip }) => clip.exposures !== undefined,
    run: clear,
  },
  {
    id: 'before',
    label: 'Before',
    icon: Rewind,
    group: 'Look',
    shortcut: ['b', 'Show before on/off', 'View'],
    run: look({ kind: 'before' }),
  },
  {
    id: 'wipe',
    label: 'Wipe',
    icon: SquareSplitHorizontal,
    group: 'Look',
    shortcut: ['v', 'Wipe between before and made on/off', 'View'],
    run: look({ kind: 'wipe', at: 0.5 }),
  },
  {
    id: 'difference',
    label: 'Difference',
    icon: Diff,
    group: 'Look',
    shortcut: ['d', 'Difference on/off', 'View'],
    run: look({ kind: 'difference' }),
  },
  {
    id: 'movement',
    label: 'Movement',
    icon: MoveUpRight,
    group: 'Look',
    shortcut: ['m', 'Movement on/off', 'View'],
    run: look({ kind: 'movement' }),
  },
  { id: 'zoom-selection', shortcut: ['z', 'Zoom to in and out', 'View'], run: zoomMarks },
  { id: 'close', shortcut: ['Escape', 'Close sheet', 'General'], run: ({ close }) => close() },
  ...timeCommands,
  ...leadingCommands('Exposure'),
] as const satisfies readonly PictureCommand[];

export type PictureCommandId = (typeof pictureCommands)[number]['id'];
