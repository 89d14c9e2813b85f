import { MOST_CAMERA } from '@hastig/contract';

/** Seconds on both sides of what a clip shows that are analysed with it, so that it may be trimmed; shorter sources are as a whole. */
const ASIDE = 5;
const WHOLE = 120;

/**
 * What is to be analysed of a source of which a clip shows some positions; or why it can't be, in words.
 *
 * @param frames of the source, at a rate
 */
export function partToAnalyse(
  { from, to }: { from: number; to: number },
  frames: number,
  rate: number,
): { from: number; to: number } | string {
  if (frames <= WHOLE * rate && frames <= MOST_CAMERA) return { from: 0, to: frames };
  const aside = Math.ceil(ASIDE * rate);
  const part = { from: Math.max(0, from - aside), to: Math.min(frames, to + aside) };
  if (part.to - part.from <= MOST_CAMERA) return part;
  return `The clip shows ${to - from} frames; the camera can be told of ${MOST_CAMERA} at most. Split it, and steady the part you need.`;
}

interface Part {
  from: number;
  to: number;
}

/** Parts of one source without what they have in common; those that are too long together stay apart. */
export function joinedParts(parts: readonly Part[]): Part[] {
  const joined: Part[] = [];
  for (const { from, to } of [...parts].sort((a, b) => a.from - b.from)) {
    const last = joined.at(-1);
    if (last && from <= last.to && Math.max(last.to, to) - last.from <= MOST_CAMERA) last.to = Math.max(last.to, to);
    else joined.push({ from, to });
  }
  return joined;
}
