import type { Keyed, KeyedSetting, PictureSettings, RetimeMap } from '@hastig/contract';
import { movedKeyed, recounted, valueAt, type ClipMoment } from '../values';

/** The settings that may change over time. */
export const keyedSettings: readonly KeyedSetting[] = ['scale', 'x', 'y', 'turn', 'opacity'];

/** What a value stays within, whatever its eases do between two keys. */
const bounds: Partial<Record<KeyedSetting, readonly [low: number, high: number]>> = {
  scale: [0.01, 100],
  opacity: [0, 1],
};

/** How a picture lies at a moment: without keys. */
export function pictureNow(settings: PictureSettings, moment: ClipMoment): PictureSettings {
  const { keys, ...rest } = settings;
  if (!keys) return settings;
  const now: PictureSettings = { ...rest };
  for (const name of keyedSettings) {
    const keyed = keys[name];
    if (!keyed) continue;
    const [low, high] = bounds[name] ?? [-Infinity, Infinity];
    now[name] = Math.min(high, Math.max(low, valueAt(keyed, moment)));
  }
  return now;
}

/** Settings with other keys; without the field where there are none. */
export function withPictureKeys(
  settings: PictureSettings,
  change: (keyed: Keyed, name: KeyedSetting) => Keyed | undefined,
): PictureSettings {
  const { keys, ...rest } = settings;
  if (!keys) return settings;
  const changed = keyedSettings.flatMap((name) => {
    const keyed = keys[name] && change(keys[name], name);
    return keyed ? [[name, keyed] as const] : [];
  });
  return changed.length > 0 ? { ...rest, keys: Object.fromEntries(changed) } : rest;
}

/** Settings whose keys go along with an edit of the clip's timing. */
export function movedPicture(settings: PictureSettings, moved: (output: number) => number): PictureSettings {
  return withPictureKeys(settings, (keyed) => movedKeyed(keyed, moved));
}

/** Settings with all keys counted one way. */
export function recountedPicture(settings: PictureSettings, by: Keyed['by'], map: RetimeMap): PictureSettings {
  return withPictureKeys(settings, (keyed) => recounted(keyed, by, map));
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
