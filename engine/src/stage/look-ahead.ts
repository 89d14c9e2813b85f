import { samePicture, type PicturePlan, type SeenPicture } from '@hastig/core';
import type { SourcePool } from '../media/source-pool';
import { framesByDecoder, decodersOf } from '../picture/decoders';

/** Output frames looked ahead while playing. */
const LOOK_AHEAD = 24;
/** Output frames by which a source is opened before its first frame is due, and the steps in which that is looked for. */
const OPEN_AHEAD = 120;
const OPEN_STEP = 8;
/** Different pictures that must be decoded before playing starts. */
const PREROLL = 8;

/** Output frames that play goes round in, `to` not included. */
export interface LoopRange {
  from: number;
  to: number;
}

/** The output frame that is due at a turn of the clock, which goes on counting when play goes round. */
export function loopedFrame(turn: number, count: number, loop: LoopRange | null): number {
  if (!loop || turn < loop.to) return Math.min(turn, count - 1);
  return loop.from + ((turn - loop.from) % Math.max(1, loop.to - loop.from));
}

/** What the output frames that follow `frame` show, in order, each once. */
function picturesAhead(plan: PicturePlan, frame: number, loop: LoopRange | null, way: 1 | -1): SeenPicture[] {
  const ahead: SeenPicture[] = [];
  for (let step = 1; step <= LOOK_AHEAD; step++) {
    let next = frame + step * way;
    if (loop && next >= loop.to) next = loop.from + ((next - loop.to) % Math.max(1, loop.to - loop.from));
    if (next >= plan.count || next < -1) break;
    const picture = plan.at(Math.max(0, next));
    const last = ahead.at(-1);
    if (picture.length > 0 && !(last && samePicture(last, picture))) ahead.push(picture);
  }
  return ahead;
}

/** Has decoded what will be due after an output frame, and opened what will be a little later. */
export function lookAhead(
  pool: SourcePool,
  plan: PicturePlan,
  frame: number,
  loop: LoopRange | null,
  way: 1 | -1 = 1,
): void {
  const pictures = [plan.at(frame), ...picturesAhead(plan, frame, loop, way)];
  pool.prefetch(framesByDecoder(pictures.map(decodersOf)), true);
  if (frame % OPEN_STEP === 0) openAhead(pool, plan, frame, way);
}

// Opening a source takes longer than decoding a frame of it, so it is begun earlier.
function openAhead(pool: SourcePool, plan: PicturePlan, frame: number, way: 1 | -1): void {
  for (let step = LOOK_AHEAD; step <= OPEN_AHEAD; step += OPEN_STEP) {
    const next = frame + step * way;
    if (next < 0 || next >= plan.count) break;
    for (const { decoder } of decodersOf(plan.at(next))) {
      if (!pool.ready(decoder)) pool.get(decoder).catch(() => undefined);
    }
  }
}

/** Resolves when the pictures from `frame` on are decoded, so that play can start without a hitch. */
export async function preroll(pool: SourcePool, plan: PicturePlan, frame: number): Promise<void> {
  const ahead = picturesAhead(plan, frame - 1, null, 1);
  pool.prefetch(framesByDecoder(ahead.map(decodersOf)), true);
  for (const { decoder, seen } of ahead.slice(0, PREROLL).flatMap(decodersOf)) {
    const source = await pool.get(decoder);
    (await source.frames.get(seen.frame)).close();
  }
}
