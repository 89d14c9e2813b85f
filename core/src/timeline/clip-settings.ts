import type { Clip, Keyed } from '@hastig/contract';
import { doNothing, movedEffects, scaledEffects } from '../effects';
import { movedSteps, saysNothing, scaledSteps } from '../exposure';
import { isPlain, movedPicture, pictureKeys } from '../picture';
import { isPlainSound, movedSound, soundKeys } from '../sound';

/** What a clip may have set beside its timing, and what travels with it when it is copied, cut, scaled or played. */
export type TravellingSettings = Pick<Clip, 'picture' | 'sound' | 'exposures' | 'effects'>;

/** How one of them behaves. */
interface Behaviour<S> {
  /** Whether it changes nothing, so that it need not be kept. */
  isPlain(settings: S | undefined): boolean;
  /** Whether any of it is counted in output frames of the clip's timing. */
  inOutput(settings: S): boolean;
  /** The same once output times have moved; undefined where nothing is left. */
  moved(settings: S, moved: (output: number) => number): S | undefined;
  /** The same of a clip whose content is counted in positions of which there are `times` as many. */
  scaled(settings: S, times: number): S | undefined;
}

type Table = { [Name in keyof TravellingSettings]-?: Behaviour<NonNullable<TravellingSettings[Name]>> };

const scaledKeys =
  (times: number) =>
  (keyed: Keyed): Keyed =>
    keyed.by === 'output' ? keyed : { ...keyed, keys: keyed.keys.map((key) => ({ ...key, at: key.at * times })) };
const some = <T>(list: T[]): T[] | undefined => (list.length > 0 ? list : undefined);

/** The one list of them: who adds a setting adds it here. */
const table: Table = {
  picture: {
    isPlain,
    inOutput: ({ keys }) => !!keys,
    moved: movedPicture,
    scaled: (settings, times) => pictureKeys.withKeys(settings, scaledKeys(times)),
  },
  sound: {
    isPlain: isPlainSound,
    inOutput: ({ keys, parts }) => !!keys || !!parts,
    moved: movedSound,
    scaled: (settings, times) => soundKeys.withKeys(settings, scaledKeys(times)),
  },
  exposures: {
    isPlain: saysNothing,
    inOutput: (steps) => steps.some(({ over }) => over?.by === 'output'),
    moved: (steps, moved) => some(movedSteps(steps, moved)),
    scaled: (steps, times) => some(scaledSteps(steps, times)),
  },
  effects: {
    isPlain: doNothing,
    inOutput: (effects) => effects.some(({ over }) => over?.by === 'output'),
    moved: (effects, moved) => some(movedEffects(effects, moved)),
    scaled: (effects, times) => some(scaledEffects(effects, times)),
  },
};

const names = Object.keys(table) as (keyof TravellingSettings)[];

/** What is set of a clip, each as a function makes it; what comes to nothing has its name and no value. */
function each(
  clip: TravellingSettings,
  change: <S>(behaviour: Behaviour<S>, settings: S) => S | undefined,
): TravellingSettings {
  const changed = names.flatMap((name) => {
    const settings = clip[name];
    return settings === undefined ? [] : [[name, change(table[name] as Behaviour<typeof settings>, settings)]];
  });
  return Object.fromEntries(changed) as TravellingSettings;
}

function without<T extends TravellingSettings>(clip: T): T {
  const rest = { ...clip };
  for (const name of names) if (rest[name] === undefined) delete rest[name];
  return rest;
}

/** A clip's settings that change anything, by themselves. */
export const settingsThatCount = (clip: TravellingSettings): TravellingSettings =>
  without(each(clip, (behaviour, settings) => (behaviour.isPlain(settings) ? undefined : settings)));

/** Whether any of a clip's settings is counted in output frames of its timing. */
export const countsInOutput = (clip: TravellingSettings): boolean => {
  let counted = false;
  each(clip, (behaviour, settings) => {
    counted ||= behaviour.inOutput(settings);
    return settings;
  });
  return counted;
};

/** A clip with those of its settings carried that are counted in its output, once that has moved. */
export const withCarriedSettings = <T extends TravellingSettings>(clip: T, moved: (output: number) => number): T =>
  without({ ...clip, ...each(clip, (behaviour, settings) => behaviour.moved(settings, moved)) });

/** A clip with its settings counted in positions of its content of which there are `times` as many. */
export const withScaledSettings = <T extends TravellingSettings>(clip: T, times: number): T =>
  without({ ...clip, ...each(clip, (behaviour, settings) => behaviour.scaled(settings, times)) });

/** Whether two clips have the very same settings: the same objects. */
export const sameClipSettings = (a: TravellingSettings, b: TravellingSettings): boolean =>
  names.every((name) => a[name] === b[name]);
