import type { RetimeMap, Span } from '@hastig/contract';
import { isLinearTime, solveTime, timeCoefficients } from '../bezier';
import { compile } from '../map';
import { isConstantSpeed, spanEase, travelWeights, type Four } from '../span';

/** A speed (or the scale of a position span) that landing may change. */
export interface Unknown {
  /** What the user drew. */
  value: number;
  /** How much a change counts: the output frames it is felt in. */
  weight: number;
  low: number;
  high: number;
}

/** How a span's four values follow from the unknowns: `base[i] + Σ share[i] · unknown`. */
interface Form {
  base: Four;
  terms: readonly { unknown: number; share: Four }[];
}

/** A map's speeds as a linear system. */
export interface LandingSystem {
  unknowns: Unknown[];
  forms: Form[];
}

/** Speeds closer than this are joined: one value at a key. */
const JOINED = 1e-9;
/** Handles of a position span count as one scale, so its travel must be worth scaling. */
const LEAST_TRAVEL = 1e-9;

/** Whether two neighbouring spans meet in one speed that is to stay one: a ramp on at least one side, no jump. */
export function meetJoined(before: Span | undefined, after: Span | undefined): boolean {
  if (before?.of !== 'speed' || after?.of !== 'speed' || after.jump) return false;
  return Math.abs(before.y[3] - after.y[0]) < JOINED && !(isConstantSpeed(before) && isConstantSpeed(after));
}

/**
 * Names the unknowns of a map. Locked spans, freezes, and what `held` names stay as they are, and so do the ends joined to
 * them; joined ends are one unknown, and the handles of a ramp follow its ends.
 *
 * @param floor speeds forwards stay at or above it, speeds backwards at or below its negative; 0 or more
 */
export function landingSystem(map: RetimeMap, held: (span: Span) => boolean, floor: number): LandingSystem {
  const { ratio } = compile(map);
  const unknowns: Unknown[] = [];
  const fixed = (span: Span): boolean => !!span.locked || held(span) || (isConstantSpeed(span) && span.y[0] === 0);
  const groups = joinedEnds(map.spans);
  // A standstill is a turning point: moved, there would be none.
  const staying = new Set<number>();
  map.spans.forEach((span, index) => {
    for (const end of [0, 1] as const) {
      if (fixed(span) || span.y[end * 3] === 0) staying.add(groups[index * 2 + end]!);
    }
  });
  const known = new Map<number, number>();
  const unknownOf = (index: number, end: 0 | 1): number | undefined => {
    const span = map.spans[index]!;
    const group = groups[index * 2 + end]!;
    if (span.of === 'position' || staying.has(group)) return undefined;
    let unknown = known.get(group);
    if (unknown === undefined) {
      const value = span.y[end * 3]!;
      const [low, high] = value > 0 ? [Math.min(floor, value), Infinity] : [-Infinity, Math.max(-floor, value)];
      unknown = unknowns.push({ value, weight: 0, low, high }) - 1;
      known.set(group, unknown);
    }
    return unknown;
  };

  const forms = map.spans.map((span, index): Form => {
    const [first, last] = [unknownOf(index, 0), unknownOf(index, 1)];
    const half = span.frames / 2;
    for (const end of [first, last]) if (end !== undefined) unknowns[end]!.weight += half;
    if (span.of === 'position') return positionForm(span, fixed(span), unknowns, ratio);
    return speedForm(span, first, last);
  });
  return { unknowns, forms };
}

// For each end of each span (start 2i, end 2i + 1) the first end it is joined with, over ramps and constant-speed parts alike.
function joinedEnds(spans: readonly Span[]): number[] {
  const groups: number[] = [];
  spans.forEach((span, index) => {
    groups.push(meetJoined(spans[index - 1], span) ? groups[index * 2 - 1]! : index * 2);
    groups.push(isConstantSpeed(span) ? groups[index * 2]! : index * 2 + 1);
  });
  return groups;
}

function positionForm(span: Span, fixed: boolean, unknowns: Unknown[], ratio: number): Form {
  if (fixed || Math.abs(span.y[3]) < LEAST_TRAVEL) return { base: span.y, terms: [] };
  const mean = span.y[3] / (ratio * span.frames);
  unknowns.push({ value: 1, weight: span.frames * mean * mean, low: 0, high: Infinity });
  return { base: [0, 0, 0, 0], terms: [{ unknown: unknowns.length - 1, share: span.y }] };
}

function speedForm(span: Span, first: number | undefined, last: number | undefined): Form {
  if (first === undefined && last === undefined) return { base: span.y, terms: [] };
  if (isConstantSpeed(span)) return { base: [0, 0, 0, 0], terms: [{ unknown: first!, share: [1, 1, 1, 1] }] };
  const ease = spanEase(span);
  // Without a rise there is no ease to keep: the handles keep their height above the end beside them.
  const [e1, e2] = ease ? [ease[1], ease[3]] : [0, 1];
  const shares: [Four, Four] = [
    [1, 1 - e1, 1 - e2, 0],
    [0, e1, e2, 1],
  ];
  const base: Four = ease ? [0, 0, 0, 0] : [0, span.y[1] - span.y[0], span.y[2] - span.y[3], 0];
  const terms: { unknown: number; share: Four }[] = [];
  [first, last].forEach((unknown, end) => {
    const share = shares[end]!;
    if (unknown !== undefined) terms.push({ unknown, share });
    else share.forEach((part, i) => (base[i]! += part * span.y[end === 0 ? 0 : 3]));
  });
  return { base, terms };
}

/** One linear equation: `Σ coefficient · unknown = wanted`. */
export interface Row {
  terms: Map<number, number>;
  wanted: number;
  /** Travel that does not depend on any unknown. */
  constant: number;
}

/**
 * Travel between two output times as a linear function of the unknowns.
 *
 * @param travel source frames that should be passed; jumps between the two times count
 */
export function travelRow(map: RetimeMap, system: LandingSystem, from: number, to: number, travel: number): Row {
  const { times, ratio, count } = compile(map);
  const terms = new Map<number, number>();
  let constant = 0;
  for (let index = firstSpanAfter(times, from); index < count && times[index]! < to; index++) {
    const span = map.spans[index]!;
    const [start, end] = [times[index]!, times[index + 1]!];
    if (start > from && span.jump) constant += span.jump;
    const weights = weightsBetween(span, (from - start) / span.frames, (to - start) / (end - start), ratio);
    const form = system.forms[index]!;
    const dot = (values: Four): number => values.reduce((sum, value, i) => sum + value * weights[i]!, 0);
    constant += dot(form.base);
    for (const { unknown, share } of form.terms) terms.set(unknown, (terms.get(unknown) ?? 0) + dot(share));
  }
  return { terms, constant, wanted: travel - constant };
}

function firstSpanAfter(times: Float64Array, at: number): number {
  let [low, high] = [0, times.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (times[middle + 1]! <= at) low = middle + 1;
    else high = middle;
  }
  return low;
}

// Source frames that each of a span's four values moves between two of its times (0…1, clipped to the span).
function weightsBetween(span: Span, from: number, to: number, ratio: number): Four {
  const upTo = (s: number): Four => {
    const u = s <= 0 ? 0 : s >= 1 ? 1 : isLinearTime(...span.x) ? s : solveTime(...timeCoefficients(...span.x), s);
    if (span.of === 'position') {
      const v = 1 - u;
      return [v * v * v, 3 * u * v * v, 3 * u * u * v, u * u * u];
    }
    return travelWeights(span.x, u).map((weight) => weight * ratio * span.frames) as Four;
  };
  const [a, b] = [upTo(from), upTo(to)];
  return b.map((weight, i) => weight - a[i]!) as Four;
}

/** The map with the unknowns at other values. */
export function withValues(map: RetimeMap, system: LandingSystem, values: Float64Array): RetimeMap {
  const spans = map.spans.map((span, index): Span => {
    const { base, terms } = system.forms[index]!;
    if (terms.length === 0) return span;
    const y = base.map((value, i) =>
      terms.reduce((sum, { unknown, share }) => sum + share[i]! * values[unknown]!, value),
    ) as Four;
    // Exact ends, so that joined speeds stay joined and a constant-speed part stays one.
    if (isConstantSpeed(span)) y.fill(values[terms[0]!.unknown]!);
    return { ...span, y };
  });
  return { ...map, spans };
}
