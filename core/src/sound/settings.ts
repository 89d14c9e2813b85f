import type {
  Fade,
  FadeShape,
  KeyedSound,
  PitchPart,
  PitchSettings,
  SoundSettings,
  TrackSound,
} from '@hastig/contract';
import { keyTools, movedKeyed, valueAt, type ClipMoment, type KeyTools } from '../values';

const { sin, cos, min, max, PI } = Math;

/** How a clip sounds where nothing was set: as on tape, at the level it has. */
export const plainSound: SoundSettings = {
  pitch: 'follows',
  cents: 0,
  formants: 'shifted',
  focus: 'music',
  freeze: 'silent',
  gain: 0,
  pan: 0,
};

/** How a track sounds where nothing was set. */
export const plainTrackSound: TrackSound = { gain: 0, pan: 0 };

/** Whether settings change nothing; so do none. */
export function isPlainSound(settings: SoundSettings | undefined): boolean {
  return !settings || JSON.stringify({ ...plainSound, ...settings }) === JSON.stringify(plainSound);
}

/** The settings that may change over time. */
const keyedSounds: readonly KeyedSound[] = ['gain', 'pan', 'cents'];

const bounds: Record<KeyedSound, readonly [low: number, high: number]> = {
  gain: [-96, 24],
  pan: [-1, 1],
  cents: [-4800, 4800],
};

/** What is done with keys of a clip's sound settings. */
export const soundKeys: KeyTools<SoundSettings, KeyedSound> = keyTools(keyedSounds, bounds);

/** What one of the settings is at a moment. */
export function soundValueAt(settings: SoundSettings, name: KeyedSound, moment: ClipMoment): number {
  const keyed = settings.keys?.[name];
  if (!keyed) return settings[name];
  const [low, high] = bounds[name];
  return min(high, max(low, valueAt(keyed, moment)));
}

/** The part of a clip an output time of its timing lies in, if its pitch is decided apart there. */
function partAt({ parts }: SoundSettings, output: number): PitchPart | undefined {
  return parts?.find(({ from, to }) => output >= from && output < to);
}

/** What is decided about pitch at an output time: of the part that lies there, or of the clip. */
export function pitchSettingsAt(settings: SoundSettings, output: number): PitchSettings {
  const { pitch, cents, formants, focus } = partAt(settings, output) ?? settings;
  return { pitch, cents, formants, focus };
}

/** Settings in which a stretch of output has a pitch of its own: what lay there gives way. */
export function withPart(settings: SoundSettings, part: PitchPart): SoundSettings {
  return withParts(settings, [...without(settings.parts ?? [], part.from, part.to), part]);
}

/** Settings in which a stretch of output has the clip's own pitch again. */
export function withoutPart(settings: SoundSettings, from: number, to: number): SoundSettings {
  return withParts(settings, without(settings.parts ?? [], from, to));
}

function without(parts: readonly PitchPart[], from: number, to: number): PitchPart[] {
  return parts.flatMap((part) => [
    ...(part.from < from ? [{ ...part, to: min(part.to, from) }] : []),
    ...(part.to > to ? [{ ...part, from: max(part.from, to) }] : []),
  ]);
}

/** Parts shorter than this (frames) are none. */
const SHORTEST = 1e-6;

const samePitch = (a: PitchSettings, b: PitchSettings): boolean =>
  a.pitch === b.pitch && a.cents === b.cents && a.formants === b.formants && a.focus === b.focus;

// In order, each with a length; neighbours that are alike are one, and what is as the clip is none.
function withParts({ parts: _old, ...settings }: SoundSettings, all: readonly PitchPart[]): SoundSettings {
  const parts: PitchPart[] = [];
  for (const part of [...all].sort((a, b) => a.from - b.from)) {
    if (part.to - part.from < SHORTEST || (!settings.keys?.cents && samePitch(part, settings))) continue;
    const last = parts.at(-1);
    if (last && part.from - last.to < SHORTEST && samePitch(last, part))
      parts[parts.length - 1] = { ...last, to: part.to };
    else parts.push(part);
  }
  return parts.length > 0 ? { ...settings, parts } : settings;
}

/** Settings whose keys and parts go along with an edit of the clip's timing. */
export function movedSound(settings: SoundSettings, moved: (output: number) => number): SoundSettings {
  const keyed = soundKeys.withKeys(settings, (one) => movedKeyed(one, moved));
  if (!keyed.parts) return keyed;
  return withParts(
    keyed,
    keyed.parts.map((part) => {
      const [a, b] = [moved(part.from), moved(part.to)];
      return { ...part, from: max(0, min(a, b)), to: max(0, a, b) };
    }),
  );
}

/** How much is heard at a share (0 to 1) of a fade in; a fade out is the same from its end. */
export function fadeGain(shape: FadeShape, share: number): number {
  const x = min(1, max(0, share));
  if (shape === 'even') return x;
  const rise = sin((PI / 2) * x);
  return shape === 'equal' ? rise : rise * rise;
}

/** Frames of a fade as it can be: no longer than what it lies in. */
const fadeFrames = (fade: Fade | undefined, most: number): number => min(fade?.frames ?? 0, most);

/**
 * How much is heard in a fade, so many frames from its silent end; a part of one that was split keeps the course of the whole.
 *
 * @param most frames of what it lies in
 */
export function gainInFade(fade: Fade, frames: number, most: number): number {
  const { shape, lead = 0, rest = 0 } = fade;
  const whole = lead + fadeFrames(fade, most) + rest;
  const within = min(fadeFrames(fade, most), frames);
  // Past it all is heard, and before it nothing.
  if (frames >= fadeFrames(fade, most) && rest === 0) return 1;
  return whole > 0 ? fadeGain(shape, (max(0, within) + lead) / whole) : 1;
}

/** The two parts of a fade that is cut so many frames from its silent end; undefined for one that has nothing of it. */
export function splitFade(fade: Fade, at: number, most: number): [silent: Fade | undefined, loud: Fade | undefined] {
  const { lead = 0, rest = 0, shape } = fade;
  const frames = fadeFrames(fade, most);
  if (at <= 0) return [undefined, fade];
  if (at >= frames) return [fade, undefined];
  const part = (own: number, before: number, after: number): Fade => ({
    ...{ frames: own, shape },
    ...(before > 0 && { lead: before }),
    ...(after > 0 && { rest: after }),
  });
  return [part(at, lead, rest + frames - at), part(frames - at, lead + at, rest)];
}

/** A gain in decibels as a factor. */
export const gainOf = (decibels: number): number => 10 ** (decibels / 20);

/**
 * Factors of left and right where sound is laid to a side: that side stays, the other falls with the cosine, so that nothing
 * becomes louder than it was.
 */
export function panGains(pan: number): [left: number, right: number] {
  return [pan > 0 ? cos((PI / 2) * pan) : 1, pan < 0 ? cos((PI / 2) * pan) : 1];
}
