import type { Rate } from '@hastig/contract';
import { canDropFrames, countingBase, formatTimecode, timecodeToFrame } from './timecode';
import { frameToSeconds, secondsToFrames } from './rational';

/** What a typed number turned into, or why it did not: `reason` reads after the field's name. */
export type Parsed = { ok: true; value: number } | { ok: false; reason: string };

const refuse = (reason: string): Parsed => ({ ok: false, reason });
const number = String.raw`[+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)`;
const minus = /[−–]/g;

function finite(text: string, limit: number): Parsed {
  const value = Number(text.replace(',', '.'));
  if (!Number.isFinite(value) || Math.abs(value) > limit) return refuse('is out of range');
  return { ok: true, value: value === 0 ? 0 : value };
}

/** Speeds beyond this are typing errors. */
const MAX_SPEED = 10_000;

/**
 * A typed speed: `40%`, `0.4`, `x0.4`, `×0.4`, `-100%`. A bare number is a factor (1 is real time).
 *
 * @returns the factor; negative is backwards, 0 a freeze
 */
export function parseSpeed(text: string): Parsed {
  const entry = text.trim().replace(minus, '-');
  if (entry === '') return refuse('is empty: type a speed such as 40% or 0.4');
  const percent = new RegExp(`^(${number})\\s*%$`).exec(entry);
  const factor = new RegExp(`^(-)?[x×]\\s*(${number})$|^(${number})\\s*[x×]?$`, 'i').exec(entry);
  if (percent) {
    const parsed = finite(percent[1]!, MAX_SPEED * 100);
    return parsed.ok ? { ok: true, value: parsed.value / 100 } : parsed;
  }
  if (factor) return finite(`${factor[1] ?? ''}${factor[2] ?? factor[3]}`, MAX_SPEED);
  return refuse('isn’t valid: type a percentage (40%) or a factor (0.4, x0.4)');
}

/**
 * How times are shown and what a bare number typed into a time field means. With `frames-from-1` the first frame of
 * output and source is called 1; lengths are the same as with `frames`.
 */
export type TimeUnit = 'timecode' | 'frames' | 'frames-from-1' | 'seconds';

export const timeUnits: readonly TimeUnit[] = ['timecode', 'frames', 'frames-from-1', 'seconds'];

/** The number of the first frame in a unit. */
export function firstFrame(unit: TimeUnit): 0 | 1 {
  return unit === 'frames-from-1' ? 1 : 0;
}

/** Longest time the program counts: 24 hours at 1000 frames a second is well below it. */
const MAX_FRAMES = 1_000_000_000;

/**
 * A typed time or length, in frames at `rate`.
 *
 * `77f` frames, `2.5s` seconds, `2:17` seconds and frames, `1:02:17` minutes too, `00:00:02;17` drop-frame.
 * A bare number counts in `unit`; under timecode a bare number is frames.
 *
 * @returns frames, whole unless seconds or fractions of frames were typed
 */
export function parseTime(text: string, rate: Rate, unit: TimeUnit = 'frames'): Parsed {
  const entry = text.trim().replace(minus, '-');
  if (entry === '') return refuse('is empty: type frames (77f), seconds (2.5s) or a timecode (2:17)');
  const frames = new RegExp(`^(${number})\\s*(?:f|fr|frames?)$`, 'i').exec(entry);
  if (frames) return finite(frames[1]!, MAX_FRAMES);
  const seconds = new RegExp(`^(${number})\\s*(?:s|sec|seconds?)$`, 'i').exec(entry);
  if (seconds) return secondsEntry(seconds[1]!, rate);
  if (new RegExp(`^${number}$`).test(entry)) {
    return unit === 'seconds' ? secondsEntry(entry, rate) : finite(entry, MAX_FRAMES);
  }
  return parseTimecode(entry, rate);
}

function secondsEntry(text: string, rate: Rate): Parsed {
  const parsed = finite(text, frameToSeconds(MAX_FRAMES, rate));
  return parsed.ok ? { ok: true, value: secondsToFrames(parsed.value, rate) } : parsed;
}

function parseTimecode(entry: string, rate: Rate): Parsed {
  const match = /^(-)?(?:(?:(\d{1,3}):)?(\d{1,3}):)?(\d{1,3})([:;])(\d{1,4})$/.exec(entry);
  if (!match) return refuse('isn’t a time: type frames (77f), seconds (2.5s) or a timecode (2:17)');
  const [, sign, hours = '0', minutes = '0', seconds, separator, frames] = match;
  const drop = separator === ';';
  if (drop && !canDropFrames(rate)) return refuse('uses ; but this rate has no drop-frame timecode');
  const parts = { hours: +hours, minutes: +minutes, seconds: +seconds!, frames: +frames! };
  if (parts.frames >= countingBase(rate)) {
    return refuse(`has frame ${parts.frames}, but this rate counts 0 to ${countingBase(rate) - 1}`);
  }
  if (parts.seconds > 59 || parts.minutes > 59) return refuse('has more than 59 minutes or seconds');
  const frame = timecodeToFrame(parts, rate, drop);
  if (frame === undefined) return refuse('is skipped by drop-frame timecode');
  return { ok: true, value: sign && frame !== 0 ? -frame : frame };
}

/** A whole number typed for a count or a frame, e.g. `77` or `77f`. */
export function parseFrame(text: string): Parsed {
  const match = /^([+-]?\d+)\s*f?$/i.exec(text.trim().replace(minus, '-'));
  if (text.trim() === '') return refuse('is empty: type a frame number');
  return match ? finite(match[1]!, MAX_FRAMES) : refuse('isn’t a frame number');
}

/** A time in frames (real) as the chosen unit shows it. Timecode shows the frame in which the time lies. */
export function formatTime(frames: number, rate: Rate, unit: TimeUnit): string {
  if (unit === 'seconds') return `${frameToSeconds(frames, rate).toFixed(3)}s`;
  if (unit === 'frames' || unit === 'frames-from-1') return `${trimDecimals(frames, 3)}f`;
  return formatTimecode(Math.floor(frames + 1e-6), rate);
}

/** A typed moment: as `parseTime`, but frames count from the unit's first frame. */
export function parseMoment(text: string, rate: Rate, unit: TimeUnit): Parsed {
  const parsed = parseTime(text, rate, unit);
  const counted = new RegExp(`^${number}\\s*(?:f|fr|frames?)?$`, 'i').test(text.trim().replace(minus, '-'));
  return parsed.ok && counted ? { ok: true, value: parsed.value - firstFrame(unit) } : parsed;
}

/** A moment in output frames (real) as the chosen unit shows it: frames count from the unit's first frame. */
export function formatMoment(frames: number, rate: Rate, unit: TimeUnit): string {
  return formatTime(unit === 'frames-from-1' ? frames + 1 : frames, rate, unit);
}

/** A typed source frame, counted from the unit's first frame; inside the program the first is 0. */
export function parseSourceFrame(text: string, unit: TimeUnit): Parsed {
  const match = new RegExp(`^(${number})\\s*f?$`, 'i').exec(text.trim().replace(minus, '-'));
  if (text.trim() === '') return refuse('is empty: type a frame number');
  if (!match) return refuse('isn’t a frame number');
  const parsed = finite(match[1]!, MAX_FRAMES);
  return parsed.ok ? { ok: true, value: parsed.value - firstFrame(unit) } : parsed;
}

/** A source position (real) as the chosen unit counts it, with at most three decimals. */
export function formatSourceFrame(position: number, unit: TimeUnit): string {
  return trimDecimals(position + firstFrame(unit), 3);
}

/** A number with at most `decimals` places, without trailing zeros; never `-0`. */
export function trimDecimals(value: number, decimals: number): string {
  const text = String(Number(value.toFixed(decimals)));
  return text === '-0' ? '0' : text;
}

/** A speed as a percentage with up to two decimals: `40%`, `-60%`, `186.67%`. */
export function formatPercent(speed: number): string {
  return `${trimDecimals(speed * 100, 2)}%`;
}

/** A speed as a factor with two decimals: `×0.40`, `−×0.60`. */
export function formatFactor(speed: number): string {
  const size = Math.abs(speed);
  const text = size >= 99.995 ? size.toFixed(0) : size.toFixed(2);
  return speed < 0 && Number(text) !== 0 ? `−×${text}` : `×${text}`;
}
