import { clearPitch, compile, mapOf, muteClip } from '@hastig/core';
import AudioWaveform from 'lucide-react-native/icons/audio-waveform';
import Crosshair from 'lucide-react-native/icons/crosshair';
import Diamond from 'lucide-react-native/icons/diamond';
import Eraser from 'lucide-react-native/icons/eraser';
import Gauge from 'lucide-react-native/icons/gauge';
import MoveHorizontal from 'lucide-react-native/icons/move-horizontal';
import Replace from 'lucide-react-native/icons/replace';
import Sliders from 'lucide-react-native/icons/sliders-vertical';
import Stretch from 'lucide-react-native/icons/unfold-horizontal';
import Unlink from 'lucide-react-native/icons/unlink';
import Volume from 'lucide-react-native/icons/volume-2';
import VolumeOff from 'lucide-react-native/icons/volume-x';
import Wind from 'lucide-react-native/icons/wind';
import { compareCommand } from '../../../commands/compare';
import { leadingCommands, timeCommands } from '../../../commands/general';
import { EffectsSheet } from '../../../sound-effects/effects-sheet';
import { AlignSheet } from '../../../sound-effects/align-sheet';
import { MixSheet } from '../../../sound/mix-sheet';
import { rearrange } from '../../../store/edit';
import { DetachSheet } from '../sheets/detach-sheet';
import { KeysSheet } from '../sheets/keys-sheet';
import { LevelSheet } from '../sheets/level-sheet';
import { LoudnessSheet } from '../sheets/loudness-sheet';
import { PitchSheet } from '../sheets/pitch-sheet';
import { ReplaceSoundSheet } from '../sheets/replace-sound-sheet';
import { StretchSheet } from '../sheets/stretch-sheet';
import { SlipSoundSheet } from '../sheets/slip-sound-sheet';
import type { SoundCommand, SoundContext } from './context';

function mute({ clip, dispatch }: SoundContext): void {
  const label = clip.muted ? 'unmute a clip' : 'mute a clip';
  dispatch(rearrange(label, (project) => muteClip(project, clip.id, !clip.muted)));
}

function clear({ clip, dispatch, state }: SoundContext): void {
  const { marks } = state().session;
  dispatch(
    rearrange('give a part the clip’s pitch', (project) => {
      const to = marks.to ?? compile(mapOf(project, clip)).length;
      return clearPitch(project, clip.id, { from: marks.from ?? 0, to });
    }),
  );
}

function zoomMarks({ time, state }: SoundContext): void {
  const { from, to } = state().session.marks;
  if (from !== null && to !== null) time.show(from, to);
}

/** Everything that can be started in Sound, in the order of its bar. */
export const soundCommands = [
  {
    id: 'pitch',
    label: 'Pitch',
    icon: AudioWaveform,
    bar: 'always',
    group: 'Clip',
    shortcut: ['p', 'Pitch', 'Sound'],
    sheet: PitchSheet,
  },
  {
    id: 'level',
    label: 'Level',
    icon: Volume,
    bar: 'always',
    group: 'Clip',
    shortcut: ['g', 'Level and fades', 'Sound'],
    sheet: LevelSheet,
  },
  {
    id: 'keys',
    label: 'Keys',
    icon: Diamond,
    bar: 'wide',
    group: 'Clip',
    shortcut: ['a', 'Gain, pan and pitch over time', 'Sound'],
    sheet: KeysSheet,
  },
  {
    id: 'sound-effects',
    label: 'Effects',
    icon: Wind,
    bar: 'always',
    group: 'Effects',
    shortcut: ['e', 'Effects', 'Sound'],
    sheet: EffectsSheet,
  },
  { id: 'align', label: 'Align', icon: Crosshair, bar: 'wide', group: 'Effects', sheet: AlignSheet },
  { id: 'mix', label: 'Mix', icon: Sliders, bar: 'always', group: 'Mix', sheet: MixSheet },
  { id: 'loudness', label: 'Loudness', icon: Gauge, bar: 'always', group: 'Mix', sheet: LoudnessSheet },
  { id: 'stretch', label: 'Stretch', icon: Stretch, bar: 'wide', group: 'Clip', sheet: StretchSheet },
  {
    id: 'detach',
    label: 'Detach',
    icon: Unlink,
    bar: 'wide',
    group: 'Clip',
    possible: ({ clip }) => clip.soundFrom === undefined,
    sheet: DetachSheet,
  },
  { id: 'replace', label: 'Replace', icon: Replace, bar: 'wide', group: 'Clip', sheet: ReplaceSoundSheet },
  { id: 'slip', label: 'Slip', icon: MoveHorizontal, bar: 'wide', group: 'Clip', sheet: SlipSoundSheet },
  { id: 'mute', label: 'Mute', icon: VolumeOff, bar: 'wide', group: 'Clip', run: mute },
  {
    id: 'clear',
    label: 'Clear parts',
    icon: Eraser,
    bar: 'wide',
    group: 'Clip',
    possible: ({ clip }) => clip.sound?.parts !== undefined,
    run: clear,
  },
  compareCommand,
  { id: 'zoom-selection', shortcut: ['z', 'Zoom to in and out', 'View'], run: zoomMarks },
  { id: 'close', shortcut: ['Escape', 'Close sheet', 'General'], run: ({ close }) => close() },
  ...timeCommands,
  ...leadingCommands('Listening'),
] as const satisfies readonly SoundCommand[];

export type SoundCommandId = (typeof soundCommands)[number]['id'];
