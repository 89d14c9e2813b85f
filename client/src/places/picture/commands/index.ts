import Aperture from 'lucide-react-native/icons/aperture';
import Circle from 'lucide-react-native/icons/circle';
import CircleDot from 'lucide-react-native/icons/circle-dot';
import Contrast from 'lucide-react-native/icons/contrast';
import Eraser from 'lucide-react-native/icons/eraser';
import { setExposures, withBase } from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { leadingCommands, timeCommands } from '../../../commands/general';
import { rearrange } from '../../../store/edit';
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

/** Everything that can be started in Picture, in the order of its bar. */
export const pictureCommands = [
  {
    id: 'exposure',
    label: 'Exposure',
    icon: Aperture,
    bar: 'always',
    group: 'Exposure',
    key: ['e', 'Add exposure', 'Picture'],
    sheet: ExposureSheet,
  },
  {
    id: 'closed',
    label: 'Closed',
    icon: CircleDot,
    bar: 'always',
    group: 'Shutter',
    key: ['c', 'Close the shutter', 'Picture'],
    run: shutter(0),
  },
  {
    id: 'half',
    label: '180°',
    icon: Contrast,
    bar: 'always',
    group: 'Shutter',
    key: ['h', 'Shutter 180°', 'Picture'],
    run: shutter(180),
  },
  {
    id: 'full',
    label: '360°',
    icon: Circle,
    bar: 'always',
    group: 'Shutter',
    key: ['f', 'Shutter 360°', 'Picture'],
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
  { id: 'zoom-selection', key: ['z', 'Zoom to in and out', 'View'], run: zoomMarks },
  { id: 'close', key: ['Escape', 'Close sheet', 'General'], run: ({ close }) => close() },
  ...timeCommands,
  ...leadingCommands('Exposure'),
] as const satisfies readonly PictureCommand[];

export type PictureCommandId = (typeof pictureCommands)[number]['id'];
