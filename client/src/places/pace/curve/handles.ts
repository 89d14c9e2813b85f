import type { RetimeMap } from '@hastig/contract';
import {
  compile,
  formatFactor,
  formatPercent,
  isJoined,
  isConstantSpeed,
  pinAt,
  trimDecimals,
  type Key,
  keyAt,
} from '@hastig/core';

/**
 * What can be grabbed in the curve. A `level` is dragged up and down; a `ramp` is moved by its bead and widened by
 * its edges; a `key` (a joint between held speeds) is moved; a `joint` (beside a ramp) is moved and dragged up and down, as
 * one bead where its two speeds are joined, as two halves where they are split.
 */
export interface CurveHandle {
  kind: 'level' | 'ramp' | 'key' | 'joint';
  /** Which of a split joint's two speeds. */
  half?: 'in' | 'out';
  /** The span; for a key the one after it. */
  index: number;
  from: number;
  to: number;
  /** Speed of the constant-speed part; of a ramp or key, halfway between its two sides on the axis. */
  speed: number;
  /** Name and value for screen readers. */
  name: string;
  value: string;
  /** Whether the ramp's edges can be dragged: a constant-speed part lies on each side. */
  widens: boolean;
}

/** The stretch in which handles are wanted, and how far apart they must be, in output frames. */
interface Sight {
  from: number;
  to: number;
  room: number;
}

const EVERYTHING: Sight = { from: -Infinity, to: Infinity, room: 0 };

/**
 * Everything that can be grabbed, from left to right. Of beads that lie too close only the first is given, before anything
 * is made of the others: a map may have thousands.
 */
export function handlesOf(map: RetimeMap, sight: Sight = EVERYTHING): CurveHandle[] {
  const { times, count } = compile(map);
  const handles: CurveHandle[] = [];
  let last = -Infinity;
  const hasRoom = (at: number): boolean => {
    if (at < sight.from || at > sight.to || at - last < sight.room) return false;
    last = at;
    return true;
  };
  for (let index = 0; index < count; index++) {
    const [from, to] = [times[index]!, times[index + 1]!];
    if (to < sight.from || from > sight.to) continue;
    const span = map.spans[index]!;
    if (isKeyShown(map, index) && hasRoom(from)) handles.push(...keyHandles(map, index));
    if (isConstantSpeed(span)) {
      if (to - from >= sight.room / 2) handles.push(partHandle(map, index, from, to));
    } else if (span.of === 'speed' && hasRoom((from + to) / 2)) handles.push(rampHandle(map, index, from, to));
  }
  return handles;
}

const show = (value: number): string => trimDecimals(value, 2);

function partHandle(map: RetimeMap, index: number, from: number, to: number): CurveHandle {
  const span = map.spans[index]!;
  const words = `${formatPercent(span.y[0])} for ${show(to - from)} frames, from output ${show(from)}`;
  return {
    ...{ kind: 'level', index, from, to, speed: span.y[0], widens: false },
    name: `Part ${index + 1} of ${map.spans.length}`,
    value: span.locked ? `${words}, locked` : words,
  };
}

function rampHandle(map: RetimeMap, index: number, from: number, to: number): CurveHandle {
  const [before, span, after] = [map.spans[index - 1], map.spans[index]!, map.spans[index + 1]];
  const [a, b] = [span.y[0], span.y[3]];
  return {
    ...{ kind: 'ramp', index, from, to, speed: (a + b) / 2 },
    name: `Ramp ${index + 1} of ${map.spans.length}`,
    value: `${formatFactor(a)} to ${formatFactor(b)} over ${show(to - from)} frames, from output ${show(from)}`,
    widens: !!before && !!after && isConstantSpeed(before) && isConstantSpeed(after) && a !== b,
  };
}

// A joint that joins a ramp with a held speed is not shown: ramp and constant-speed part are what is dragged there.
function isKeyShown(map: RetimeMap, index: number): boolean {
  const [before, after] = [map.spans[index - 1], map.spans[index]!];
  if (!before) return false;
  const held = Number(isConstantSpeed(before)) + Number(isConstantSpeed(after));
  return held !== 1 || !isJoined(map, index);
}

function keyHandles(map: RetimeMap, index: number): CurveHandle[] {
  const [before, after] = [map.spans[index - 1]!, map.spans[index]!];
  const key = keyAt(map, index);
  const { output, speedIn, speedOut } = key;
  const name = `Key ${index + 1} of ${map.spans.length + 1}`;
  const common = { index, from: output, to: output, value: keyWords(map, key), widens: false };
  if (isConstantSpeed(before) && isConstantSpeed(after)) {
    return [{ ...common, kind: 'key', speed: (speedIn! + speedOut!) / 2, name, widens: !after.jump }];
  }
  if (speedIn === speedOut || isJoined(map, index)) return [{ ...common, kind: 'joint', speed: speedOut!, name }];
  return [
    { ...common, kind: 'joint', half: 'in', speed: speedIn!, name: `${name}, speed in` },
    { ...common, kind: 'joint', half: 'out', speed: speedOut!, name: `${name}, speed out` },
  ];
}

/** A key in words: `output 48, source 67, speed 0.4 to 6`, and whether it is pinned. */
export function keyWords(map: RetimeMap, key: Key): string {
  const { output, source, speedIn, speedOut } = key;
  const speeds = [speedIn, speedOut].filter((speed) => speed !== undefined).map(show);
  const speed = speeds[0] === speeds[1] || speeds.length === 1 ? speeds[0] : speeds.join(' to ');
  return `output ${show(output)}, source ${show(source)}, speed ${speed}${pinAt(map, output) ? ', pinned' : ''}`;
}
