import type { Keyed, KeyedSetting, PictureSettings, RetimeMap, ValueKey } from '@hastig/contract';
import type { Ease } from '../retime';
import {
  keyAtMoment,
  outputsOfKey,
  valueAt,
  withEasedKey,
  withMovedKey,
  withoutValueKey,
  withValueKey,
  type ClipMoment,
} from '../values';
import { keyedSettings, pictureNow, withPictureKeys } from './animated';

/** Settings with some of them changed at a moment: those that have keys get one there. */
export function pictureAtMoment(
  settings: PictureSettings,
  change: Partial<Omit<PictureSettings, 'keys'>>,
  moment: ClipMoment,
): PictureSettings {
  const keyed = keyedSettings.filter((name) => settings.keys?.[name] && change[name] !== undefined);
  const rest = Object.fromEntries(Object.entries(change).filter(([name]) => !keyed.includes(name as KeyedSetting)));
  const plain: PictureSettings = { ...settings, ...rest };
  return withPictureKeys(plain, (one, name) => (keyed.includes(name) ? withValueKey(one, moment, change[name]!) : one));
}

/**
 * Settings of which just these change over time: one that begins to gets a key with what it is at the moment, one that no
 * longer does keeps what it was then.
 */
export function withKeyed(
  settings: PictureSettings,
  names: readonly KeyedSetting[],
  by: Keyed['by'],
  moment: ClipMoment,
): PictureSettings {
  const now = pictureNow(settings, moment);
  const keys: Partial<Record<KeyedSetting, Keyed>> = {};
  for (const name of names) {
    keys[name] = settings.keys?.[name] ?? { by, keys: [{ at: moment[by], value: now[name] }] };
  }
  return names.length > 0 ? { ...now, keys } : now;
}

/** What the keys of settings are counted by; undefined where there are none. */
export function countedBy({ keys }: PictureSettings): Keyed['by'] | undefined {
  const first = keyedSettings.find((name) => keys?.[name]);
  return first && keys?.[first]?.by;
}

/** Output times at which any of the settings has a key, rising, each once; several keys may stand at one. */
export function keyOutputs({ keys }: PictureSettings, map: RetimeMap): number[] {
  const all = keyedSettings.flatMap((name) => {
    const keyed = keys?.[name];
    return keyed ? keyed.keys.flatMap((key) => outputsOfKey(keyed, key, map)) : [];
  });
  const rising = all.sort((a, b) => a - b);
  return rising.filter((at, index) => index === 0 || at - rising[index - 1]! > 1e-3);
}

const atMoment = (keyed: Keyed, moment: ClipMoment): ValueKey | undefined => keyAtMoment(keyed, moment);

/** Whether any of the settings has a key at a moment. */
export function hasKeyAt({ keys }: PictureSettings, moment: ClipMoment): boolean {
  return keyedSettings.some((name) => keys?.[name] && atMoment(keys[name], moment));
}

/** Settings with a key at a moment for each that changes over time, with what it is then. */
export function withKeysAt(settings: PictureSettings, moment: ClipMoment): PictureSettings {
  return withPictureKeys(settings, (keyed) => withValueKey(keyed, moment, valueAt(keyed, moment)));
}

/** Settings without the keys at a moment; what had no other key keeps its value. */
export function withoutKeysAt(settings: PictureSettings, moment: ClipMoment): PictureSettings {
  const now = pictureNow(settings, moment);
  let kept: PictureSettings = settings;
  const left = withPictureKeys(settings, (keyed, name) => {
    const key = atMoment(keyed, moment);
    const without = key ? withoutValueKey(keyed, key) : keyed;
    if (!without) kept = { ...kept, [name]: now[name] };
    return without;
  });
  const { keys: _old, ...values } = kept;
  return { ...values, ...(left.keys && { keys: left.keys }) };
}

/**
 * Settings with the keys of one moment at another.
 *
 * @throws EditRefused where other keys are
 */
export function withKeysMoved(settings: PictureSettings, from: ClipMoment, to: ClipMoment): PictureSettings {
  return withPictureKeys(settings, (keyed) => {
    const key = atMoment(keyed, from);
    return key ? withMovedKey(keyed, key, to[keyed.by]) : keyed;
  });
}

/** Settings whose keys at a moment lead to the next ones in another way. */
export function withKeysEased(settings: PictureSettings, moment: ClipMoment, ease: Ease): PictureSettings {
  return withPictureKeys(settings, (keyed) => {
    const key = atMoment(keyed, moment);
    return key ? withEasedKey(keyed, key, ease) : keyed;
  });
}

/** How the keys at a moment lead to the next ones, where they have it set. */
export function easeAt({ keys }: PictureSettings, moment: ClipMoment): Ease | undefined {
  for (const name of keyedSettings) {
    const key = keys?.[name] && atMoment(keys[name], moment);
    if (key?.ease) return key.ease as Ease;
  }
  return undefined;
}
