import type { RetimeMap } from '@hastig/contract';
import { rateRatio } from '../../time';
import { realFrameFloor } from '../floor';
import { compile, frameCount, heldFrame, HELD_EPSILON, positionAt, spanIndexAt, speedAt } from '../map';
import { isConstantSpeed } from '../span';

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

/** The file's frame at each of a source's positions. */
export type FileFrames = ArrayLike<number>;

/**
 * The cadence of the output frames from `from` up to `to`, whole numbers. Exact, frame by frame; where the speed is constant
 * in one multiplication each, so that hours of slow motion are counted in milliseconds.
 *
 * @param fileFrames the file's frame at each position, where its frames come at irregular times: then those are counted
 */
export function cadenceOf(map: RetimeMap, from: number, to: number, fileFrames?: FileFrames): Cadence {
  const ready = compile(map);
  const floor = realFrameFloor(map.sourceRate, map.outputRate) - 1e-9;
  const last = map.sourceFrames - 1;
  // Plain numbers and no calls in the loop, nor a look at another module's constant: it may run a million times.
  const epsilon = HELD_EPSILON;
  let [once, repeated, skipped, between] = [0, 0, 0, 0];
  let run = 0;
  const shownAt = (n: number): number => {
    const held = heldFrame(ready, n);
    return fileFrames ? fileFrames[held]! : held;
  };
  let before = from > 0 ? shownAt(from - 1) : -1;
  let n = from;
  for (let index = spanIndexAt(ready, from); n < to; index++) {
    const end = index < ready.count - 1 ? Math.min(to, Math.ceil(ready.times[index + 1]!)) : to;
    const span = map.spans[index]!;
    const steady = isConstantSpeed(span);
    const [time, start] = [ready.times[index]!, ready.positions[index]!];
    const step = ready.ratio * span.y[0];
    const slow = steady && Math.abs(span.y[0]) < floor;
    for (; n < end; n++) {
      const position = steady ? start + step * (n - time) : positionAt(ready, n);
      const frame = Math.floor(position + epsilon);
      const clamped = frame < 0 ? 0 : frame > last ? last : frame;
      const held = fileFrames ? fileFrames[clamped]! : clamped;
      if (held === before) {
        repeated++;
        // A run that came in from before the stretch belongs there.
        if (run > 0) run++;
      } else {
        if (run === 1) once++;
        run = 1;
        const passed = held > before ? held - before : before - held;
        if (before >= 0) skipped += passed - 1;
      }
      before = held;
      if (position - frame > epsilon && (steady ? slow : Math.abs(speedAt(ready, n)) < floor)) between++;
    }
  }
  if (run === 1 && !(to < frameCount(map) && shownAt(to) === before)) once++;
  return { frames: Math.max(0, to - from), once, repeated, skipped, between };
}

/** The cadence of each span, in order; an output frame belongs to the span in which it begins. */
export function cadences(map: RetimeMap, fileFrames?: FileFrames): Cadence[] {
  const { times, count } = compile(map);
  const total = frameCount(map);
  const first = (index: number): number => Math.min(total, Math.max(0, Math.ceil(times[index]! - HELD_EPSILON)));
  return Array.from({ length: count }, (_, index) =>
    cadenceOf(map, first(index), index === count - 1 ? total : first(index + 1), fileFrames),
  );
}

/** A row of the guide: what a speed means for a source at an output rate. */
interface GuideRow {
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
