import type { FadeShape, FreezeSound, PitchSettings, SoundFocus } from '@hastig/contract';
import { trimDecimals } from '@hastig/core';

/** A shift as it is read: in semitones where it is whole ones, in cents where it is not. */
export function shiftWords(cents: number): string {
  const sign = cents > 0 ? '+' : '−';
  const size = Math.abs(cents);
  return size % 100 === 0 ? `${sign}${size / 100} st` : `${sign}${trimDecimals(size, 1)} ct`;
}

/** What is decided about a pitch, in a few words: “Pitch kept, +3 st”. */
export function pitchWords({ pitch, cents, formants }: PitchSettings): string {
  const parts = [pitch === 'kept' ? 'Pitch kept' : 'Pitch follows'];
  if (cents !== 0) parts.push(shiftWords(cents));
  if (formants === 'kept') parts.push('formants kept');
  return parts.join(', ');
}

/** Speeds between which a kept pitch sounds like what was recorded; beyond them tones stay exact, but voices and noise turn rough. */
const SOUND_AT = [0.1, 8] as const;

/** What is said of a kept pitch where a clip runs slower or faster than it can sound well; undefined where it does not. */
export function roughWords(speeds: readonly number[]): string | undefined {
  const [slowest, fastest] = SOUND_AT;
  const moving = speeds.map(Math.abs).filter((speed) => speed > 0);
  const slow = moving.some((speed) => speed < slowest);
  const fast = moving.some((speed) => speed > fastest);
  if (!slow && !fast) return undefined;
  const where = [...(slow ? ['below 10%'] : []), ...(fast ? ['above 800%'] : [])].join(' and ');
  return `Kept pitch sounds rough ${where}. Let it follow or fade there.`;
}

/** The same where there is little room, and where it is plain that it is about pitch: “Kept, +3 st”. */
export function shortPitchWords(settings: PitchSettings): string {
  const words = pitchWords(settings).replace(/^Pitch /, '');
  return words[0]!.toUpperCase() + words.slice(1);
}

/** A level as it is read: decibels with a sign. */
export const decibelWords = (decibels: number): string =>
  Number.isFinite(decibels) ? `${decibels > 0 ? '+' : decibels < 0 ? '−' : ''}${Math.abs(decibels).toFixed(1)}` : '−∞';

export const focusOptions: readonly { value: SoundFocus; label: string }[] = [
  { value: 'music', label: 'Music' },
  { value: 'speech', label: 'Speech' },
];

export const freezeOptions: readonly { value: FreezeSound; label: string }[] = [
  { value: 'silent', label: 'Silent' },
  { value: 'held', label: 'Held tone' },
  { value: 'faded', label: 'Fade out' },
];

export const fadeOptions: readonly { value: FadeShape; label: string }[] = [
  { value: 'even', label: 'Even' },
  { value: 'smooth', label: 'Smooth' },
  { value: 'equal', label: 'Equal power' },
];
