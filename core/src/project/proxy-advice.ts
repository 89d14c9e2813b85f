import type { MediaFacts } from '@hastig/contract';

/** Seconds from which a source counts as long. */
const LONG = 600;
/** Pixels of a picture from which it counts as large: more than full HD. */
const LARGE = 1920 * 1080;
/** Frames in a group of pictures from which it counts as long: two seconds at 30. */
const LONG_GROUP = 60;

/**
 * Why a source is slow to drag through and a proxy would help, for people; empty where it would hardly do. The
 * thresholds are ours.
 */
export function proxyReasons({ video }: Pick<MediaFacts, 'video'>): string[] {
  const reasons: string[] = [];
  if (!video) return reasons;
  if (video.seconds >= LONG) reasons.push(`it is ${Math.round(video.seconds / 60)} minutes long`);
  if (video.width * video.height > LARGE) reasons.push(`it is ${video.width} × ${video.height} pixels`);
  if (video.longestGroup > LONG_GROUP) {
    reasons.push(`showing one frame means decoding up to ${video.longestGroup}`);
  }
  return reasons;
}
