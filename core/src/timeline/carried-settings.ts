import type { Clip } from '@hastig/contract';
import { movedPicture } from '../picture';
import { movedSound } from '../sound';

/** What of a clip is counted in its output, once that has moved: its picture's keys, and the keys and parts of its sound. */
export function carriedSettings(
  { picture, sound }: Pick<Clip, 'picture' | 'sound'>,
  moved: (output: number) => number,
): Pick<Clip, 'picture' | 'sound'> {
  return {
    ...(picture && { picture: movedPicture(picture, moved) }),
    ...(sound && { sound: movedSound(sound, moved) }),
  };
}
