import type { Rate, RetimeMap } from '@hastig/contract';
import {
  formatFactor,
  formatMoment,
  formatPercent,
  formatSourceFrame,
  formatTime,
  parseFrame,
  parseMoment,
  parseSourceFrame,
  parseSpeed,
  parseTime,
  trimDecimals,
  type Ease,
  type EaseName,
  type Keeps,
  type OutputRange,
  type Parsed,
  type TimeUnit,
} from '@hastig/core';

/** What is typed or chosen in a form so far, by field; a field of several entries has some of its own, as `ease:x1`. */
export type Texts = Readonly<Record<string, string>>;

interface Common {
  label: string;
  /** Whether the field is there, given the others; always unless told. */
  when?: (texts: Texts) => boolean;
}

/** A number that is typed. */
export interface NumberSpec extends Common {
  kind: 'number';
  initial: string;
  hint?: string;
  parse(text: string): Parsed;
  /** Too long to share a row on a phone, as a timecode is. */
  long?: boolean;
  /** What was typed comes to, in words; undefined where it is nothing yet. */
  comesTo?(text: string): string | undefined;
  /** The text one step further; undefined where the number has no natural step. */
  step?(text: string, by: 1 | -1): string | undefined;
}

/** One of a few. */
export interface ChoiceSpec<T extends string = string> extends Common {
  kind: 'choice';
  initial: T;
  options: readonly { value: T; label: string }[];
  /** On a phone on one line, pushed sideways, so that more fields are in sight at once. */
  short?: boolean;
  /** Why an option can't be chosen, given the others, in words; undefined where it can. */
  whyNot?(value: T, texts: Texts): string | undefined;
  /** What counts in the place of what was chosen before it could not be any more. */
  instead?(value: T, texts: Texts): T;
}

/** The stretch of output an edit is about. */
export interface RangeSpec extends Common {
  kind: 'range';
}

/** What an edit leaves alone; the choice holds for later edits. */
export interface KeepsSpec extends Common {
  kind: 'keeps';
}

/** The shape of a ramp: a named ease, own handles, or how many frames its start and its end take. */
export interface EaseSpec extends Common {
  kind: 'ease';
  initial: EaseName;
  /** Frames the ramp lasts, for shapes given in frames; undefined where that is not known. */
  frames?: number;
}

/** Words that are typed. */
export interface WordsSpec extends Common {
  kind: 'words';
  initial: string;
  /** Beneath it, by what was typed, there and elsewhere. */
  hint?(text: string, texts: Texts): string;
  /** What is wrong with it; undefined where nothing is. */
  fault(text: string): string | undefined;
}

export type FieldSpec = NumberSpec | ChoiceSpec | WordsSpec | RangeSpec | KeepsSpec | EaseSpec;

/** A chosen range; `part` is its span where it is one. */
export interface ChosenRange extends OutputRange {
  part: number | undefined;
}

export type ValueOf<S> = S extends NumberSpec
  ? number
  : S extends ChoiceSpec<infer T>
    ? T
    : S extends RangeSpec
      ? ChosenRange
      : S extends KeepsSpec
        ? Keeps
        : S extends EaseSpec
          ? Ease
          : S extends WordsSpec
            ? string
            : never;

export type Specs = Record<string, FieldSpec>;
export type Values<S extends Specs> = { [K in keyof S]: ValueOf<S[K]> };

const more = (parsed: Parsed): Parsed =>
  parsed.ok && !(parsed.value > 0) ? { ok: false, reason: 'must be more than 0' } : parsed;

/** A field whose number is stepped by `size`, within what it takes. */
function stepped(spec: NumberSpec, size: number, format: (value: number) => string): NumberSpec {
  return {
    ...spec,
    step: (text, by) => {
      // There is no next one to what is empty or wrong.
      const now = spec.parse(text);
      if (!now.ok) return undefined;
      // To the next whole step, so that 12.4 goes to 13 or 12 and rounding errors do not pile up.
      const steps = now.value / size;
      const nextStep =
        Math.abs(steps - Math.round(steps)) < 1e-6
          ? Math.round(steps) + by
          : by > 0
            ? Math.ceil(steps)
            : Math.floor(steps);
      const next = format(Math.round(nextStep * size * 1e9) / 1e9);
      return spec.parse(next).ok ? next : undefined;
    },
  };
}

export function speedField(label: string, initial: string, hint?: string): NumberSpec {
  const spec: NumberSpec = { kind: 'number', label, initial, parse: parseSpeed, comesTo: speedInWords };
  return stepped({ ...spec, ...(hint && { hint }) }, 0.01, formatPercent);
}

/** From here on a bare number may well have been meant as a percentage. */
const DOUBTFUL = 5;

// A bare number is a factor; whoever means a percentage sees it before it is applied.
function speedInWords(text: string): string | undefined {
  const parsed = parseSpeed(text);
  if (!parsed.ok) return undefined;
  const { value } = parsed;
  const words = `${formatFactor(value)} · ${formatPercent(value)}`;
  return !text.includes('%') && Math.abs(value) >= DOUBTFUL
    ? `${words}. For ${formatFactor(value / 100)} type ${trimDecimals(value, 2)}%.`
    : words;
}

/** A speed above 0. */
export function factorField(label: string, initial: string, hint?: string): NumberSpec {
  return stepped({ ...speedField(label, initial, hint), parse: (text) => more(parseSpeed(text)) }, 0.01, formatPercent);
}

/** A length in output frames, more than 0 unless `least` is 0. */
export function lengthField(label: string, initial: string, rate: Rate, unit: TimeUnit, least: 0 | 1 = 1): NumberSpec {
  const parse = (text: string): Parsed => {
    const parsed = parseTime(text, rate, unit);
    if (least === 1) return more(parsed);
    return parsed.ok && parsed.value < 0 ? { ok: false, reason: 'can’t be less than 0' } : parsed;
  };
  return stepped({ kind: 'number', label, initial, parse }, 1, (frames) => formatTime(frames, rate, unit));
}

/** A whole number of at least `least`. */
export function countField(label: string, initial: string, least: number, hint?: string): NumberSpec {
  const parse = (text: string): Parsed => {
    const parsed = parseFrame(text);
    return parsed.ok && parsed.value < least ? { ok: false, reason: `must be at least ${least}` } : parsed;
  };
  return stepped({ kind: 'number', label, initial, parse, ...(hint && { hint }) }, 1, String);
}

/** A moment in output frames, inside the clip. */
export function momentField(label: string, at: number, map: RetimeMap, unit: TimeUnit, length: number): NumberSpec {
  const show = (frame: number): string => formatMoment(frame, map.outputRate, unit);
  const parse = (text: string): Parsed => parseMomentWithin(text, map, unit, length);
  return stepped({ kind: 'number', label, initial: show(at), parse, long: true }, 1, show);
}

export function parseMomentWithin(text: string, map: RetimeMap, unit: TimeUnit, length: number): Parsed {
  const parsed = parseMoment(text, map.outputRate, unit);
  if (parsed.ok && (parsed.value < 0 || parsed.value > length + 1e-6)) {
    return { ok: false, reason: `is outside the clip, which is ${Math.round(length * 100) / 100} frames long` };
  }
  return parsed;
}

export function sourceField(label: string, initial: string, unit: TimeUnit): NumberSpec {
  const parse = (text: string): Parsed => parseSourceFrame(text, unit);
  return stepped({ kind: 'number', label, initial, parse }, 1, (frame) => formatSourceFrame(frame, unit));
}

/** A share between 0% and 100%. */
export function shareField(label: string, initial: string): NumberSpec {
  const parse = (text: string): Parsed => {
    const parsed = parseSpeed(text.includes('%') ? text : `${text}%`);
    if (!parsed.ok) return { ok: false, reason: 'isn’t a percentage: type a number such as 40%' };
    return parsed.value > 0 && parsed.value < 1 ? parsed : { ok: false, reason: 'must be between 0% and 100%' };
  };
  return { kind: 'number', label, initial, parse };
}

/** A number within bounds, stepped by 1. */
export function numberField(label: string, initial: string, low: number, high: number, hint?: string): NumberSpec {
  const parse = (text: string): Parsed => {
    const value = text.trim() === '' ? NaN : Number(text.trim().replace(',', '.').replace('−', '-'));
    if (!Number.isFinite(value)) return { ok: false, reason: 'is not a number' };
    if (value < low || value > high) return { ok: false, reason: `must be between ${low} and ${high}` };
    // A minus before nothing is no number of its own.
    return { ok: true, value: value + 0 };
  };
  return stepped({ kind: 'number', label, initial, parse, ...(hint && { hint }) }, 1, (value) =>
    trimDecimals(value, 2),
  );
}

/** A percentage within bounds, which are included; typed with or without its sign. */
export function percentField(label: string, initial: string, low: number, high: number): NumberSpec {
  const parse = (text: string): Parsed => {
    const parsed = parseSpeed(text.includes('%') ? text : `${text}%`);
    if (!parsed.ok) return { ok: false, reason: 'isn’t a percentage: type a number such as 40%' };
    if (parsed.value < low || parsed.value > high) {
      return { ok: false, reason: `must be between ${formatPercent(low)} and ${formatPercent(high)}` };
    }
    return { ok: true, value: parsed.value + 0 };
  };
  return stepped({ kind: 'number', label, initial, parse }, 0.01, formatPercent);
}

export function choiceField<T extends string>(
  label: string,
  initial: NoInfer<T>,
  options: readonly { value: T; label: string }[],
): ChoiceSpec<T> {
  return { kind: 'choice', label, initial, options };
}

export const rangeField: RangeSpec = { kind: 'range', label: 'Apply to' };
export const keepsField: KeepsSpec = { kind: 'keeps', label: 'Preserve' };

export function easeField(initial: EaseName = 'ease-in-out', frames?: number): EaseSpec {
  return { kind: 'ease', label: 'Ease', initial, ...(frames === undefined ? {} : { frames }) };
}

/** A field that is there only while another has a certain value. */
export function onlyWhen<S extends FieldSpec>(spec: S, field: string, ...values: string[]): S {
  return { ...spec, when: (texts) => values.includes(texts[field]!) };
}
