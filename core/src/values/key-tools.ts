import type { Keyed, RetimeMap, ValueKey } from '@hastig/contract';
import type { Ease } from '../retime';
import {
  keyAtMoment,
  outputsOfKey,
  recounted,
  valueAt,
  withEasedKey,
  withMovedKey,
  withoutValueKey,
  withValueKey,
  type ClipMoment,
} from './keyed';

/** Settings of which some numbers may change over time: their keys stand beside them. */
type KeyedNumbers<N extends string> = Record<N, number> & { keys?: Partial<Record<N, Keyed>> };

/** What is done with keys of settings, whatever these are about. */
export interface KeyTools<S, N extends string> {
  /** Settings as they are at a moment: without keys. */
  now(settings: S, moment: ClipMoment): S;
  /** Settings with other keys; without the field where there are none. */
  withKeys(settings: S, change: (keyed: Keyed, name: N) => Keyed | undefined): S;
  /** Settings with some of them changed at a moment: those that have keys get one there. */
  atMoment(settings: S, change: Partial<Omit<S, 'keys'>>, moment: ClipMoment): S;
  /**
   * Settings of which just these change over time: one that begins to gets a key with what it is at the moment, one that no
   * longer does keeps what it was then.
   */
  withKeyed(settings: S, names: readonly N[], by: Keyed['by'], moment: ClipMoment): S;
  /** What the keys are counted by; undefined where there are none. */
  countedBy(settings: S): Keyed['by'] | undefined;
  /** Settings with all keys counted one way. */
  recounted(settings: S, by: Keyed['by'], map: RetimeMap): S;
  /** Output times at which any of the settings has a key, rising, each once; several keys may stand at one. */
  keyOutputs(settings: S, map: RetimeMap): number[];
  /** Whether any of the settings has a key at a moment. */
  hasKeyAt(settings: S, moment: ClipMoment): boolean;
  /** Settings with a key at a moment for each that changes over time, with what it is then. */
  withKeysAt(settings: S, moment: ClipMoment): S;
  /** Settings without the keys at a moment; what had no other key keeps its value. */
  withoutKeysAt(settings: S, moment: ClipMoment): S;
  /** Settings with the keys of one moment at another. Throws EditRefused where other keys are. */
  withKeysMoved(settings: S, from: ClipMoment, to: ClipMoment): S;
  /** Settings whose keys at a moment lead to the next ones in another way. */
  withKeysEased(settings: S, moment: ClipMoment, ease: Ease): S;
  /** How the keys at a moment lead to the next ones, where they have it set. */
  easeAt(settings: S, moment: ClipMoment): Ease | undefined;
}

/**
 * The tools for one kind of settings.
 *
 * @param names of the numbers that may change over time
 * @param bounds what a value stays within, whatever its eases do between two keys
 */
export function keyTools<S extends KeyedNumbers<N>, N extends string>(
  names: readonly N[],
  bounds: Partial<Record<N, readonly [low: number, high: number]>>,
): KeyTools<S, N> {
  const now = (settings: S, moment: ClipMoment): S => {
    const { keys, ...rest } = settings;
    if (!keys) return settings;
    const values: Record<string, unknown> = { ...rest };
    for (const name of names) {
      const keyed = keys[name];
      if (!keyed) continue;
      const [low, high] = bounds[name] ?? [-Infinity, Infinity];
      values[name] = Math.min(high, Math.max(low, valueAt(keyed, moment)));
    }
    return values as S;
  };
  const withKeys: KeyTools<S, N>['withKeys'] = (settings, change) => {
    const { keys, ...rest } = settings;
    if (!keys) return settings;
    const changed = names.flatMap((name) => {
      const before: Keyed | undefined = keys[name];
      const keyed = before && change(before, name);
      return keyed ? [[name, keyed] as const] : [];
    });
    return { ...rest, ...(changed.length > 0 && { keys: Object.fromEntries(changed) }) } as unknown as S;
  };
  const keysOf = ({ keys }: S): Keyed[] =>
    names.flatMap((name) => {
      const keyed: Keyed | undefined = keys?.[name];
      return keyed ? [keyed] : [];
    });
  const keysAt = (settings: S, moment: ClipMoment): ValueKey[] =>
    keysOf(settings).flatMap((keyed) => keyAtMoment(keyed, moment) ?? []);
  return {
    now,
    withKeys,
    atMoment: (settings, change, moment) => {
      const given = change as Partial<Record<string, number>>;
      const keyed = names.filter((name) => settings.keys?.[name] && given[name] !== undefined);
      const plain = Object.fromEntries(Object.entries(change).filter(([name]) => !keyed.includes(name as N)));
      return withKeys({ ...settings, ...plain }, (one, name) =>
        keyed.includes(name) ? withValueKey(one, moment, given[name]!) : one,
      );
    },
    withKeyed: (settings, chosen, by, moment) => {
      const values = now(settings, moment);
      const keys: Partial<Record<N, Keyed>> = {};
      for (const name of chosen) {
        keys[name] = settings.keys?.[name] ?? { by, keys: [{ at: moment[by], value: values[name] }] };
      }
      return chosen.length > 0 ? { ...values, keys } : values;
    },
    countedBy: (settings) => keysOf(settings)[0]?.by,
    recounted: (settings, by, map) => withKeys(settings, (keyed) => recounted(keyed, by, map)),
    keyOutputs: (settings, map) => {
      const all = keysOf(settings).flatMap((keyed) => keyed.keys.flatMap((key) => outputsOfKey(keyed, key, map)));
      const rising = all.sort((a, b) => a - b);
      return rising.filter((at, index) => index === 0 || at - rising[index - 1]! > 1e-3);
    },
    hasKeyAt: (settings, moment) => keysAt(settings, moment).length > 0,
    withKeysAt: (settings, moment) =>
      withKeys(settings, (keyed) => withValueKey(keyed, moment, valueAt(keyed, moment))),
    withoutKeysAt: (settings, moment) => {
      const values = now(settings, moment);
      const kept: Record<string, number> = {};
      const left = withKeys(settings, (keyed, name) => {
        const key = keyAtMoment(keyed, moment);
        const without = key ? withoutValueKey(keyed, key) : keyed;
        if (!without) kept[name] = values[name];
        return without;
      });
      return { ...left, ...kept };
    },
    withKeysMoved: (settings, from, to) =>
      withKeys(settings, (keyed) => {
        const key = keyAtMoment(keyed, from);
        return key ? withMovedKey(keyed, key, to[keyed.by]) : keyed;
      }),
    withKeysEased: (settings, moment, ease) =>
      withKeys(settings, (keyed) => {
        const key = keyAtMoment(keyed, moment);
        return key ? withEasedKey(keyed, key, ease) : keyed;
      }),
    easeAt: (settings, moment) => keysAt(settings, moment).find(({ ease }) => ease)?.ease as Ease | undefined,
  };
}
