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

/** What a step says: `Slow parts blended, shutter 180°`. */
export function stepWords({ slow, shutter, grows }: ExposureStep): string {
  const words = [
    ...(slow ? [`slow parts ${slowWords[slow].toLowerCase()}`] : []),
    ...(shutter === undefined ? [] : [`${angle(shutter)}${grows && shutter > 0 ? ', opening with speed' : ''}`]),
  ].join(', ');
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** Where it holds, apart from a stretch: `only above 100%`; nothing where it holds at any speed. */
export const conditionWords = ({ only }: ExposureStep): string | undefined =>
  only && `only ${only.than === 'faster' ? 'above' : 'below'} ${formatPercent(only.speed)}`;

/** How pictures are exposed, in a few words: `Held`, `Blended · 180°`. */
export function exposureWords({ slow, shutter }: Exposure = instant): string {
  return shutter > 0 ? `${slowWords[slow]} · ${trimDecimals(shutter, 1)}°` : slowWords[slow];
}
