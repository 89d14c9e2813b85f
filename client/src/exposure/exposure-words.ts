import type { ExposureStep, SlowWay } from '@hastig/contract';
import { formatPercent, instant, trimDecimals, type Exposure } from '@hastig/core';

/** What is seen between two source frames, in a word. */
const slowWords: Record<SlowWay, string> = {
  held: 'Held',
  blended: 'Blended',
  compensated: 'Compensated',
};

export const slowOptions = (Object.keys(slowWords) as SlowWay[]).map((value) => ({ value, label: slowWords[value] }));

const angle = (shutter: number): string => (shutter > 0 ? `shutter ${trimDecimals(shutter, 1)}°` : 'shutter closed');

const everyWords = ({ frames, from }: NonNullable<ExposureStep['every']>): string => {
  if (frames === 1) return 'every frame';
  return `every ${ordinal(frames)} frame${from ? ` from ${from}` : ''}`;
};

/** A number as the one that comes at its place: `1st`, `2nd`, `11th`. */
function ordinal(number: number): string {
  const ending = { one: 'st', two: 'nd', few: 'rd' } as Partial<Record<Intl.LDMLPluralRule, string>>;
  return `${number}${ending[ordinals.select(number)] ?? 'th'}`;
}

const ordinals = new Intl.PluralRules('en', { type: 'ordinal' });

/** What a step says: `Slow parts blended, shutter 180°`. */
export function stepWords({ slow, shutter, samples, grows, every, most, keys, evenLight }: ExposureStep): string {
  const words = [
    ...(keys ? ['key frames only'] : []),
    ...(every ? [everyWords(every)] : []),
    ...(most === undefined ? [] : [`at most ${most} ${most === 1 ? 'frame' : 'frames'}`]),
    ...(slow ? [`slow parts ${slowWords[slow].toLowerCase()}`] : []),
    ...(shutter === undefined ? [] : [`${angle(shutter)}${grows && shutter > 0 ? ', opening with speed' : ''}`]),
    ...(samples === 'auto' && shutter ? ['samples by movement'] : []),
    ...(evenLight === undefined ? [] : [evenLight ? 'flicker evened out' : 'flicker as filmed']),
  ].join(', ');
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** Where it holds, apart from a stretch: `only above 100%`; nothing where it holds at any speed. */
export const conditionWords = ({ only }: Pick<ExposureStep, 'only'>): string | undefined =>
  only && `only ${only.than === 'faster' ? 'above' : 'below'} ${formatPercent(only.speed)}`;

/** How pictures are exposed, in a few words: `Held`, `Blended · 180°`. */
export function exposureWords({ slow, shutter, every, keys, evenLight }: Exposure = instant): string {
  const left = keys ? ' · key frames' : every && every.frames > 1 ? ` · every ${ordinal(every.frames)}` : '';
  return `${slowWords[slow]}${shutter > 0 ? ` · ${trimDecimals(shutter, 1)}°` : ''}${left}${evenLight ? ' · even light' : ''}`;
}
