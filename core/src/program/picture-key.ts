import type { PictureSettings } from '@hastig/contract';
import type { Mixing } from '../exposure';
import { isPlain } from '../picture';
import {
  isLeaf,
  isSeenFrame,
  isSeenMix,
  isSeenSum,
  type SeenFrame,
  type SeenLeaf,
  type SeenOf,
  type SeenPicture,
} from './seen';

/** Keys that were told, by what they are of. */
const known = new WeakMap<object, string>();

function kept(of: object, make: () => string): string {
  const before = known.get(of);
  if (before !== undefined) return before;
  const key = make();
  known.set(of, key);
  return key;
}

// Whose clip it is makes no difference to what is seen.
const frameKey = ({ sourceId, frame, share, way, key, steady }: SeenFrame): string =>
  JSON.stringify([sourceId, frame, share ?? null, way ?? null, key ?? null, steady ?? null]);

const mixingKey = ({ combine, lit }: Mixing): string => `${combine}${lit ? JSON.stringify([lit.times, lit.plus]) : ''}`;

/** A key of what one source gives: the same where its picture is the same. */
const leafKey = (leaf: SeenLeaf): string =>
  kept(leaf, () => {
    if (isSeenFrame(leaf)) return frameKey(leaf);
    if (isSeenSum(leaf))
      return `sum(${mixingKey(leaf)} ${leaf.sum.map((part) => `${leafKey(part.leaf)}*${part.weight}`).join('+')})`;
    const parts = leaf.parts.map(({ seen, weight }) => `${frameKey(seen)}*${weight}`);
    return `mean(${leaf.auto ? 'auto ' : ''}${leaf.evenLight ?? ''} ${parts.join('+')})`;
  });

/** What is called the same stands in the same place. */
const inOrder = (_: string, value: unknown): unknown =>
  value && typeof value === 'object' && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
    : value;

function settingsKey(settings: PictureSettings | undefined): string {
  if (!settings || isPlain(settings)) return '';
  return JSON.stringify(settings, inOrder);
}

function nodeKey(of: SeenOf): string {
  if (isLeaf(of)) return leafKey(of);
  if (!isSeenMix(of)) return `layers(${pictureKey(of)})`;
  const moments = of.moments.map(({ layers, weight }) => `${pictureKey(layers)}*${weight}`);
  return `mix(${mixingKey(of)}${of.opaque ? ' opaque' : ''} ${moments.join('+')})`;
}

/** A key of a picture: the same where it shows the same, pixel for pixel, in frames of one size. */
export const pictureKey = (picture: SeenPicture): string =>
  kept(picture, () =>
    picture
      .map(({ of, settings, frame, covering, differing }) => {
        const more = frame || covering || differing ? JSON.stringify([frame, covering, differing]) : '';
        return `${nodeKey(of)}${settingsKey(settings)}${more}`;
      })
      .join('|'),
  );

/** Whether two leaves show the same. */
export const sameLeaf = (a: SeenLeaf, b: SeenLeaf): boolean => a === b || leafKey(a) === leafKey(b);

/** Whether two pictures show the same, pixel for pixel, in frames of one size. */
export const samePicture = (a: SeenPicture, b: SeenPicture): boolean => a === b || pictureKey(a) === pictureKey(b);
