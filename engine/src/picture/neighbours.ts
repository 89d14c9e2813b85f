import type { SourceFrames } from '../media/source-frames';

/** The two frames of a source between which a picture lies, and how far it is from the first to the second, 0 to less than 1. */
export interface Neighbours {
  first: number;
  second: number;
  share: number;
}

/** Frames for which one may stand to be a repetition: 8 pictures a second in 48. What stands for longer stands still, or is slow. */
const MOST_REPEATED = 5;

/** A frame just short of another is at it. */
const EPSILON = 1e-6;

type Timed = Pick<SourceFrames, 'frames' | 'times'>;

/** Answers whether a frame shows what the one before it shows. */
type IsRepeated = (frame: number) => Promise<boolean>;

/** Whether a source's file has no other frame at a position than at the one before it. */
const isSameFrame = ({ times }: Timed, position: number): boolean =>
  times !== undefined && times.frameAt(position) === times.frameAt(position - 1);

/** The frame after the last one that shows the same as this one; undefined where too many do, or all to the end. */
async function endOfRun({ frames }: Timed, frame: number, isRepeated: IsRepeated): Promise<number | undefined> {
  let next = frame + 1;
  while (next < frames && next - frame <= MOST_REPEATED && (await isRepeated(next))) next++;
  return next < frames && next - frame <= MOST_REPEATED ? next : undefined;
}

/**
 * The two different frames of a source between which a position lies, by the times at which they begin to stand. A frame that is
 * repeated, as one in five is of a film of 24 frames a second in a file of 30, is no neighbour of itself. One that stands for
 * longer stands still, and gives way to the next in its last position; or it moves too slowly to be told from one that does, and
 * what is made between it and the next is right all the same.
 *
 * @param frame at which the position is, or after which; 0 … frames − 1
 * @param share how far after it, 0 to less than 1
 * @param looksRepeated finds what the file's times do not tell; not asked where it is not given
 */
export async function neighboursOf(
  source: Timed,
  frame: number,
  share: number,
  looksRepeated?: IsRepeated,
): Promise<Neighbours> {
  const { frames, times } = source;
  const itself = { first: frame, second: Math.min(frames - 1, frame + 1), share };
  if (!times && !looksRepeated) return itself;
  const isRepeated: IsRepeated = async (at) => isSameFrame(source, at) || ((await looksRepeated?.(at)) ?? false);
  let first = frame;
  while (first > 0 && frame - first < MOST_REPEATED && (await isRepeated(first))) first--;
  const placeAt = (at: number): number => times?.placeAt(at) ?? at;
  const position = frame + share;
  if (position - placeAt(frame) < EPSILON && first === frame) return { ...itself, share: 0 };
  let second = await endOfRun(source, frame, isRepeated);
  if (second === undefined || second - first > MOST_REPEATED) return itself;
  // Counted at instants, the next frame may have come before the next position.
  if (position - placeAt(second) >= -EPSILON) {
    first = second;
    second = await endOfRun(source, first, isRepeated);
    if (second === undefined) return { first, second: first, share: 0 };
  }
  const [from, to] = [placeAt(first), placeAt(second)];
  return { first, second, share: Math.min(1 - EPSILON, Math.max(0, (position - from) / (to - from))) };
}
