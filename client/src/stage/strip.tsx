import type { RetimeMap } from '@hastig/contract';
import { compile, formatFactor, speedAt } from '@hastig/core';
import { speedColour } from '../ui/palette';

const PARTS = 48;

/** A clip's speeds in the middle of so many even parts of its length. */
export function speedsOf(map: RetimeMap, parts = PARTS): number[] {
  const { length } = compile(map);
  return Array.from({ length: parts }, (_, part) => speedAt(map, ((part + 0.5) / parts) * length));
}

/** The slowest and the fastest speed of a clip, in words of its own: `×0.40 to ×1.00`. */
export function speedRangeText(map: RetimeMap): string {
  const speeds = speedsOf(map);
  const [low, high] = [Math.min(...speeds), Math.max(...speeds)].map(formatFactor);
  return low === high ? low! : `${low} to ${high}`;
}

/** A clip's speeds at a glance: one colour after the other along its length. The numbers stand beside it. */
export function SpeedStrip({ map }: { map: RetimeMap }) {
  const percent = (part: number): string => `${((part / PARTS) * 100).toFixed(2)}%`;
  const stops = speedsOf(map).map((speed, part) => `${speedColour(speed)} ${percent(part)} ${percent(part + 1)}`);
  return (
    <div
      aria-hidden
      style={{ height: 8, borderRadius: 8, background: `linear-gradient(to right, ${stops.join(', ')})` }}
    />
  );
}
