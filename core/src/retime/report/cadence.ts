import type { RetimeMap } from '@hastig/contract';
import { rateRatio } from '../../time';
import { realFrameFloor } from '../floor';
import { compile, frameCount, heldFrame, HELD_EPSILON, positionAt, speedAt } from '../map';

/** How the frames of a stretch of output are come by, when the held frame is shown. */
export interface Cadence {
  /** Output frames of the stretch. */
  frames: number;
  /** Source frames shown in exactly one output frame. */
  once: number;
  /** Output frames that show the same source frame as the one before. */
  repeated: number;
  /** Source frames passed over between two output frames. */
  skipped: number;
  /**
   * Output frames that fall between two source frames where the source passes slower than the floor: what a way of making
   * frames up would have to make up.
   */
  between: number;
}

const NONE: Cadence = { frames: 0, once: 0, repeated: 0, skipped: 0, between: 0 };

/** The cadence of the output frames from `from` up to `to`, whole numbers. */
export function cadenceOf(map: RetimeMap, from: number, to: number): Cadence {
  const ready = compile(map);
  const floor = realFrameFloor(map.sourceRate, map.outputRate);
  const cadence = { ...NONE, frames: Math.max(0, to - from) };
  let run = 0;
  let before = from > 0 ? heldFrame(ready, from - 1) : undefined;
  const endRun = (): void => {
    if (run === 1) cadence.once++;
    run = 0;
  };
  for (let n = from; n < to; n++) {
    const held = heldFrame(ready, n);
    if (held === before) {
      cadence.repeated++;
      // A run that came in from before the stretch belongs there.
      if (run > 0) run++;
    } else {
      endRun();
      run = 1;
      if (before !== undefined && n > 0) cadence.skipped += Math.max(0, Math.abs(held - before) - 1);
    }
    before = held;
    if (isBetween(positionAt(ready, n)) && Math.abs(speedAt(ready, n)) < floor - 1e-9) cadence.between++;
  }
  if (run === 1 && to < frameCount(map) && heldFrame(ready, to) === before) run = 2;
  endRun();
  return cadence;
}

function isBetween(position: number): boolean {
  return Math.abs(position - Math.round(position)) > HELD_EPSILON;
}

/** The cadence of each span, in order; an output frame belongs to the span in which it begins. */
export function cadences(map: RetimeMap): Cadence[] {
  const { times, count } = compile(map);
  const total = frameCount(map);
  const first = (index: number): number => Math.min(total, Math.max(0, Math.ceil(times[index]! - HELD_EPSILON)));
  return Array.from({ length: count }, (_, index) =>
    cadenceOf(map, first(index), index === count - 1 ? total : first(index + 1)),
  );
}

/** A row of the guide: what a speed means for a source at an output rate. */
export interface GuideRow {
  sourceRate: { num: number; den: number };
  outputRate: { num: number; den: number };
  /** Slowest speed at which every output frame has a source frame of its own. */
  floor: number;
}

/** The floors of common source rates at common output rates, in frames per second. */
export function guideTable(): GuideRow[] {
  const rate = (num: number, den = 1): { num: number; den: number } => ({ num, den });
  const sources = [rate(24), rate(25), rate(30), rate(50), rate(60), rate(100), rate(120), rate(240)];
  const outputs = [rate(24), rate(25), rate(30), rate(60)];
  return sources.flatMap((sourceRate) =>
    outputs.map((outputRate) => ({ sourceRate, outputRate, floor: rateRatio(outputRate, sourceRate) })),
  );
}
