import { freezeSounds, pitchModes, soundFocuses, type SoundSettings } from '@hastig/contract';
import { isPlainSound, plainSound } from '@hastig/core';
import { Option, type Command } from 'commander';
import { parsedCents } from './arguments';

/** How a clip's sound is made. */
export interface VoiceFlags extends Pick<SoundSettings, 'pitch' | 'focus' | 'formants' | 'freeze'> {
  shift: number;
}

/** The options of a command that makes sound. */
export const withVoice = (command: Command): Command =>
  command
    .addOption(
      new Option('--pitch <mode>', 'what the pitch does when the speed changes')
        .choices([...pitchModes])
        .default('follows'),
    )
    .option('--shift <cents>', 'shift the pitch by so many cents', parsedCents, 0)
    .addOption(
      new Option('--focus <focus>', 'what a kept pitch is kept for').choices([...soundFocuses]).default('music'),
    )
    .addOption(
      new Option('--formants <how>', 'formants of a shifted voice').choices(['shifted', 'kept']).default('shifted'),
    )
    .addOption(new Option('--freeze <sound>', 'sound of a freeze').choices([...freezeSounds]).default('silent'));

/** What a clip has set for it; nothing where it is as it comes. */
export function voiceOf({ pitch, focus, formants, freeze, shift: cents }: VoiceFlags): SoundSettings | undefined {
  const settings = { ...plainSound, pitch, focus, formants, freeze, cents };
  return isPlainSound(settings) ? undefined : settings;
}
