import type { KeyedSetting, PictureSettings } from '@hastig/contract';
import { keyTools, movedKeyed, type KeyTools } from '../values';

/** The settings that may change over time. */
const keyedSettings: readonly KeyedSetting[] = ['scale', 'x', 'y', 'turn', 'opacity'];

/** What a value stays within, whatever its eases do between two keys. */
const bounds: Partial<Record<KeyedSetting, readonly [low: number, high: number]>> = {
  scale: [0.01, 100],
  opacity: [0, 1],
};

/** What is done with keys of a picture's settings. */
export const pictureKeys: KeyTools<PictureSettings, KeyedSetting> = keyTools(keyedSettings, bounds);

/** Settings whose keys go along with an edit of the clip's timing. */
export function movedPicture(settings: PictureSettings, moved: (output: number) => number): PictureSettings {
  return pictureKeys.withKeys(settings, (keyed) => movedKeyed(keyed, moved));
}

/** The largest that a picture ever is scaled to. */
export function largestScale({ scale, keys }: PictureSettings): number {
  const keyed = keys?.scale;
  if (!keyed) return scale;
  // Eases may lead beyond both keys: as far out as their handles are.
  return Math.max(
    ...keyed.keys.map(({ value, ease }, index) => {
      const rise = (keyed.keys[index + 1]?.value ?? value) - value;
      return Math.max(value, value + rise * Math.max(0, ease?.[1] ?? 0, ease?.[3] ?? 0));
    }),
  );
}
