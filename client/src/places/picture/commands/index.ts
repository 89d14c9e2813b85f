import Anchor from 'lucide-react-native/icons/anchor';
import Aperture from 'lucide-react-native/icons/aperture';
import Circle from 'lucide-react-native/icons/circle';
import CircleDot from 'lucide-react-native/icons/circle-dot';
import Contrast from 'lucide-react-native/icons/contrast';
import Crosshair from 'lucide-react-native/icons/crosshair';
import Paperclip from 'lucide-react-native/icons/paperclip';
import Crop from 'lucide-react-native/icons/crop';
import Diff from 'lucide-react-native/icons/diff';
import Eraser from 'lucide-react-native/icons/eraser';
import Layers from 'lucide-react-native/icons/layers';
import ListFilter from 'lucide-react-native/icons/list-filter';
import Rewind from 'lucide-react-native/icons/rewind';
import MoveUpRight from 'lucide-react-native/icons/move-up-right';
import Sun from 'lucide-react-native/icons/sun';
import SquareSplitHorizontal from 'lucide-react-native/icons/square-split-horizontal';
import type { ProjectDocument } from '@hastig/contract';
import { effectList, exposureList, withBase } from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import type { StageLook } from '@hastig/engine';
import { compareCommand } from '../../../commands/compare';
import { leadingCommands, timeCommands } from '../../../commands/general';
import { rearrange } from '../../../store/edit';
import { noticeSet } from '../../../store/session-slice';
import { lookChosen } from '../../../store/stage-slice';
import { ClipFlash, ClipReframe, ClipThin } from '../sheets/clip-effects';
import { ExposureSheet } from '../sheets/exposure-sheet';
import { CarrySheet } from '../sheets/carry-sheet';
import { PointsSheet } from '../sheets/points-sheet';
import { SteadySheet } from '../sheets/steady-sheet';
import { TrailSheet } from '../sheets/trail-sheet';
import type { PictureCommand, PictureContext } from './context';

const shutter =
  (angle: number) =>
  ({ clip, dispatch }: PictureContext): void => {
    dispatch(
      rearrange(angle > 0 ? `open the shutter ${angle}°` : 'close the shutter', (project) =>
        exposureList.set(project, { clips: [clip.id] }, (steps) => withBase(steps, { shutter: angle }, nanoid(12))),
      ),
    );
  };

function clear({ clip, dispatch }: PictureContext): void {
  const owner = { clips: [clip.id] };
  const without = (project: ProjectDocument): ProjectDocument =>
    effectList.set(
      exposureList.set(project, owner, () => []),
      owner,
      () => [],
    );
  dispatch(rearrange('remove exposures and effects', without));
}

/** Only what has frames of its own can be followed; says so of a group. */
function readyToTrack({ clip, dispatch }: PictureContext): boolean {
  if (clip.of.kind !== 'source')
    dispatch(noticeSet('A group is steadied by its clips. Open the group and choose one.'));
  return clip.of.kind === 'source';
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
    bar: 'wide',
    group: 'Shutter',
    shortcut: ['c', 'Close the shutter', 'Picture'],
    run: shutter(0),
  },
  {
    id: 'half',
    label: '180°',
    icon: Contrast,
    bar: 'wide',
    group: 'Shutter',
    shortcut: ['h', 'Shutter 180°', 'Picture'],
    run: shutter(180),
  },
  {
    id: 'full',
    label: '360°',
    icon: Circle,
    bar: 'wide',
    group: 'Shutter',
    shortcut: ['f', 'Shutter 360°', 'Picture'],
    run: shutter(360),
  },
  {
    id: 'trail',
    label: 'Trail',
    icon: Layers,
    bar: 'always',
    group: 'Effect',
    shortcut: ['t', 'Add trail', 'Picture'],
    sheet: TrailSheet,
  },
  {
    id: 'flash',
    label: 'Flash',
    icon: Sun,
    bar: 'always',
    group: 'Effect',
    shortcut: ['a', 'Add flash', 'Picture'],
    sheet: ClipFlash,
  },
  {
    id: 'reframe',
    label: 'Reframe',
    icon: Crop,
    bar: 'always',
    group: 'Effect',
    shortcut: ['r', 'Add reframe', 'Picture'],
    sheet: ClipReframe,
  },
  {
    id: 'steady',
    label: 'Steady',
    icon: Anchor,
    bar: 'always',
    group: 'Effect',
    shortcut: ['s', 'Steady', 'Picture'],
    ready: readyToTrack,
    sheet: SteadySheet,
  },
  {
    id: 'points',
    label: 'Points',
    icon: Crosshair,
    group: 'Effect',
    shortcut: ['p', 'Tracked points', 'Picture'],
    ready: readyToTrack,
    sheet: PointsSheet,
  },
  {
    id: 'carry',
    label: 'Attach to point',
    icon: Paperclip,
    group: 'Effect',
    sheet: CarrySheet,
  },
  {
    id: 'thin-flashes',
    label: 'Thin out flashes',
    icon: ListFilter,
    group: 'Effect',
    possible: ({ clip }) => (clip.effects ?? []).filter(({ kind }) => kind === 'flash').length > 1,
    sheet: ClipThin,
  },
  {
    id: 'clear',
    label: 'Remove all',
    icon: Eraser,
    bar: 'wide',
    group: 'Effect',
    possible: ({ clip }) => clip.exposures !== undefined || clip.effects !== undefined,
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
  compareCommand,
  { id: 'zoom-selection', shortcut: ['z', 'Zoom to in and out', 'View'], run: zoomMarks },
  { id: 'close', shortcut: ['Escape', 'Close sheet', 'General'], run: ({ close }) => close() },
  ...timeCommands,
  ...leadingCommands('Exposure'),
] as const satisfies readonly PictureCommand[];

export type PictureCommandId = (typeof pictureCommands)[number]['id'];
