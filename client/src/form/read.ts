import type { RetimeMap } from '@hastig/contract';
import { compile, eases, formatMoment, spanIndexAt, type Ease, type EaseName, type TimeUnit } from '@hastig/core';
import {
  parseMomentWithin,
  type ChosenRange,
  type EaseSpec,
  type FieldSpec,
  type Specs,
  type Texts,
  type Values,
} from './specs';

/** What a form is filled in about. */
export interface FormContext {
  map: RetimeMap;
  unit: TimeUnit;
  playhead: number;
  /** The selected span, if one is. */
  selected: number | null;
  marks: { from: number | null; to: number | null };
  keeps: 'content' | 'length';
}

/** A field read: its value, or what is wrong with which entry. */
type Read = { value: unknown } | { faults: Record<string, string> };

/** How the stretch of a range field is chosen. */
export type Scope = 'part' | 'clip' | 'marked' | 'typed';

/** Everything a form starts with. */
export function initialTexts(specs: Specs, context?: FormContext): Record<string, string> {
  const texts: Record<string, string> = {};
  for (const [name, spec] of Object.entries(specs)) {
    if (spec.kind === 'number' || spec.kind === 'choice' || spec.kind === 'words') texts[name] = spec.initial;
    if (spec.kind === 'ease') Object.assign(texts, easeTexts(name, spec));
    if (spec.kind === 'range') Object.assign(texts, rangeTexts(name, needed(context)));
  }
  return texts;
}

function easeTexts(name: string, spec: EaseSpec): Record<string, string> {
  const [x1, y1, x2, y2] = eases['ease-in-out'];
  const third = String(Math.max(1, Math.round((spec.frames ?? 12) / 3)));
  return {
    [name]: spec.initial,
    ...{
      [`${name}:x1`]: String(x1),
      [`${name}:y1`]: String(y1),
      [`${name}:x2`]: String(x2),
      [`${name}:y2`]: String(y2),
    },
    ...{ [`${name}:start`]: third, [`${name}:end`]: third, [`${name}:even`]: 'even' },
  };
}

/** Index of the span a form is about: the selected one, or the one at the playhead. */
export function partOf({ map, playhead, selected }: FormContext): number {
  const ready = compile(map);
  return Math.min(selected ?? spanIndexAt(ready, playhead), ready.count - 1);
}

function rangeTexts(name: string, context: FormContext): Record<string, string> {
  const { map, unit, marks } = context;
  const ready = compile(map);
  const part = partOf(context);
  const [from, to] = [marks.from ?? ready.times[part]!, marks.to ?? ready.times[part + 1]!];
  const show = (frame: number): string => formatMoment(frame, map.outputRate, unit);
  return {
    [name]: (marks.from === null && marks.to === null ? 'part' : 'marked') satisfies Scope,
    [`${name}:from`]: show(Math.min(from, to)),
    [`${name}:to`]: show(Math.max(from, to)),
  };
}

/** The marked range; an open end is the clip's. */
function markedRange({ map, marks }: FormContext): { from: number; to: number } {
  return { from: marks.from ?? 0, to: marks.to ?? compile(map).length };
}

// Only fields about a clip ask what it is about.
function needed(context: FormContext | undefined): FormContext {
  if (!context) throw new Error('a form about a clip is told which');
  return context;
}

/** A form read: all its values, or none where an entry is wrong, and what is wrong by entry. */
export function readForm<S extends Specs>(
  specs: S,
  texts: Texts,
  context?: FormContext,
): { values: Values<S> | undefined; faults: Record<string, string> } {
  const values: Record<string, unknown> = {};
  const faults: Record<string, string> = {};
  for (const [name, spec] of Object.entries(specs)) {
    const hidden = spec.when && !spec.when(texts);
    const read = readField(
      name,
      spec,
      hidden ? { ...texts, ...initialTexts({ [name]: spec }, context) } : texts,
      context,
    );
    if ('value' in read) values[name] = read.value;
    else Object.assign(faults, read.faults);
  }
  return { values: Object.keys(faults).length === 0 ? (values as Values<S>) : undefined, faults };
}

function readField(name: string, spec: FieldSpec, texts: Texts, context: FormContext | undefined): Read {
  switch (spec.kind) {
    case 'number': {
      const parsed = spec.parse(texts[name]!);
      return parsed.ok ? { value: parsed.value } : { faults: { [name]: parsed.reason } };
    }
    case 'choice':
      return { value: spec.instead?.(texts[name]!, texts) ?? texts[name] };
    case 'words': {
      const fault = spec.fault(texts[name]!);
      return fault === undefined ? { value: texts[name] } : { faults: { [name]: fault } };
    }
    case 'keeps':
      return { value: needed(context).keeps };
    case 'range':
      return readRange(name, texts, needed(context));
    case 'ease':
      return readEase(name, spec, texts);
  }
}

function readRange(name: string, texts: Texts, context: FormContext): Read {
  const { map, unit } = context;
  const ready = compile(map);
  const scope = texts[name] as Scope;
  const part = partOf(context);
  if (scope === 'part') {
    const value: ChosenRange = { from: ready.times[part]!, to: ready.times[part + 1]!, part };
    return { value };
  }
  if (scope === 'clip') return { value: { from: 0, to: ready.length, part: undefined } };
  if (scope === 'marked') return { value: { ...markedRange(context), part: undefined } };
  const [from, to] = [`${name}:from`, `${name}:to`].map((key) =>
    parseMomentWithin(texts[key]!, map, unit, ready.length),
  );
  const faults: Record<string, string> = {};
  if (!from!.ok) faults[`${name}:from`] = from!.reason;
  if (!to!.ok) faults[`${name}:to`] = to!.reason;
  if (!from!.ok || !to!.ok) return { faults };
  return { value: { from: from!.value, to: to!.value, part: undefined } };
}

function readEase(name: string, spec: EaseSpec, texts: Texts): Read {
  const shape = texts[name]!;
  const faults: Record<string, string> = {};
  const number = (key: string, low: number, high: number): number => {
    const text = texts[`${name}:${key}`]!.trim().replace(',', '.');
    const value = text === '' ? Number.NaN : Number(text);
    if (!(value >= low && value <= high)) faults[`${name}:${key}`] = `must be between ${low} and ${high}`;
    return value;
  };
  if (shape === 'own') {
    const ease: Ease = [number('x1', 0, 1), number('y1', -10, 10), number('x2', 0, 1), number('y2', -10, 10)];
    return Object.keys(faults).length > 0 ? { faults } : { value: ease };
  }
  if (shape === 'frames') {
    const frames = spec.frames ?? 12;
    const start = number('start', 0, frames);
    const end = texts[`${name}:even`] === 'even' ? start : number('end', 0, frames);
    const ease: Ease = [start / frames, 0, 1 - end / frames, 1];
    return Object.keys(faults).length > 0 ? { faults } : { value: ease };
  }
  return { value: eases[shape as EaseName] };
}
