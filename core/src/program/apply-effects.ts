import type { Carry, Effect, Flash, PictureSettings, Rate, Reframe, Trail } from '@hastig/contract';
import {
  boxAt,
  boxInFrame,
  followedPlace,
  framedBox,
  holdsFor,
  isSteadying,
  litBy,
  trailParts,
  trailWeights,
} from '../effects';
import { litTwice, type Lit } from '../exposure';
import { coversFrame, isPlain, plainPicture, sameSettings, type Point, type Size } from '../picture';
import { rateToNumber } from '../time';
import type { ClipMoment } from '../values';
import type { Program } from './program';
import { isLeaf, isSeenSum, leafFrames, type SeenLayer, type SeenLeaf } from './seen';

/** Layers, and whether they leave nothing of the frame free and let nothing through. */
export interface Layers {
  layers: readonly SeenLayer[];
  covers: boolean;
}

export const NOTHING: Layers = { layers: [], covers: false };

/** What is seen so many pictures after the one that is made. */
export type Seen = (after: number) => Layers;

/** What one source gives to layers that are nothing else; undefined where they are more, or it is seen through. */
function onlyLeaf({ layers }: Layers, sizes: Program['sizes']): { leaf: SeenLeaf; layer: SeenLayer } | undefined {
  const [layer] = layers;
  if (layers.length !== 1 || !layer || !isLeaf(layer.of)) return undefined;
  return sizes[leafFrames(layer.of)[0]!.sourceId]?.alpha ? undefined : { leaf: layer.of, layer };
}

/** Pictures with copies of earlier or later ones, where the clip is there then. */
function trailed(trail: Trail, seen: Seen, { program, rate, isThere }: EffectPlace): Seen {
  const all = trailParts(trail, program.rate).map(({ after, weight }) => ({ by: after * rateToNumber(rate), weight }));
  return (after) => {
    const parts = all
      .filter(({ by }) => by === 0 || isThere(after + by))
      .map(({ by, weight }) => ({ ...seen(after + by), weight }))
      .filter(({ layers }, index) => index === 0 || layers.length > 0);
    const [first] = parts;
    if (parts.length < 2 || !first) return seen(after);
    const { combine } = trail;
    const told = parts.map(({ weight }) => weight);
    const covers = first.covers && (combine !== 'mean' || parts.every((part) => part.covers));
    const leaves = parts.flatMap((part) => onlyLeaf(part, program.sizes) ?? []);
    const [one] = leaves;
    const together =
      leaves.length === parts.length &&
      leaves.every(({ layer }) => sameSettings(layer.settings, one!.layer.settings)) &&
      new Set(leaves.map(({ leaf }) => leafFrames(leaf)[0]!.sourceId)).size === 1;
    if (together) {
      const weights = trailWeights(combine, told);
      const sum = leaves.map(({ leaf }, index) => ({ leaf, weight: weights[index]! }));
      return {
        layers: [{ ...one!.layer, of: { sum, combine: combine === 'lightest' ? 'lightest' : 'sum' } }],
        covers,
      };
    }
    const weights = combine === 'mean' ? trailWeights('mean', told) : told;
    const moments = parts.map(({ layers }, index) => ({ layers, weight: weights[index]! }));
    return { layers: [{ of: { moments, combine: combine === 'mean' ? 'sum' : combine } }], covers };
  };
}

/** Layers lit otherwise; `whole` where the frame is lit too, which is black where nothing covers it. */
function lit(light: Lit, seen: Layers, sizes: Program['sizes'], whole: boolean): Layers {
  const adds = light.plus.some((share) => share > 0);
  const only = onlyLeaf(seen, sizes);
  if (only && (seen.covers || !whole || !adds)) {
    const { leaf, layer } = only;
    const of = isSeenSum(leaf)
      ? { ...leaf, lit: litTwice(leaf.lit, light) }
      : // Of one picture the lightest is itself, and is put together more quickly.
        { sum: [{ leaf, weight: 1 }], combine: 'lightest' as const, lit: light };
    return { layers: [{ ...layer, of }], covers: seen.covers };
  }
  if (seen.layers.length === 0 && !(whole && adds)) return seen;
  const moments = [{ layers: seen.layers, weight: 1 }];
  return {
    layers: [{ of: { moments, combine: 'sum', lit: light, ...(whole && { opaque: true as const }) } }],
    covers: whole || seen.covers,
  };
}

/** Pictures in the light of a flash. */
function flashed(
  flash: Flash,
  seen: Seen,
  momentAfter: (after: number) => ClipMoment,
  sizes: Program['sizes'],
  whole: boolean,
): Seen {
  return (after) => {
    const light = litBy(flash, momentAfter(after)[flash.over.by] - flash.over.from);
    return light ? lit(light, seen(after), sizes, whole) : seen(after);
  };
}

/** What effects are done in. */
interface EffectPlace {
  program: Pick<Program, 'rate' | 'sizes' | 'frame'>;
  /** Pictures in a second. */
  rate: Rate;
  /** The moment of the clip or the film so many pictures after the one that is made. */
  momentAfter(after: number): ClipMoment;
  /** The output frames of what they are of: those of a reframe that has no stretch. */
  all: { from: number; to: number };
  /** Whether the clip is there so many pictures later. */
  isThere(after: number): boolean;
  /** Where what an effect goes along with is in the frame so many pictures after the one that is made, in pixels. */
  pointAfter(effect: Reframe | Carry, after: number): Point | undefined;
  /** They are of the whole frame, not of a clip's picture. */
  whole: boolean;
}

/** Effects in their order. */
export interface EffectChain {
  apply(seen: Seen): Seen;
  /** How those that move the picture lay the frame, so many pictures after the one that is made. */
  moves: readonly ((after: number) => PictureSettings)[];
}

/** What comes of effects, one after the other. */
export function effectChain(effects: readonly Effect[], place: EffectPlace): EffectChain {
  const { program, momentAfter, whole } = place;
  const { frame } = program;
  const done = effects.map((effect): { apply: (seen: Seen) => Seen; move?: (after: number) => PictureSettings } => {
    if (effect.kind === 'trail') return { apply: (seen) => trailed(effect, seen, place) };
    if (effect.kind === 'flash') return { apply: (seen) => flashed(effect, seen, momentAfter, program.sizes, whole) };
    // What is steadied is so before it gets here.
    if (isSteadying(effect) || !frame) return { apply: (seen) => seen };
    const move = (after: number): PictureSettings =>
      effect.kind === 'carry' ? carrying(effect, after, place, frame) : reframing(effect, after, place, frame);
    return { apply: (seen) => reframed(seen, move, frame), move };
  });
  return {
    apply: (seen) => done.reduce((made, { apply }) => apply(made), seen),
    moves: done.flatMap(({ move }) => (move ? [move] : [])),
  };
}

/** How a reframe lays the frame at a moment. */
function reframing(reframe: Reframe, after: number, place: EffectPlace, frame: Size): PictureSettings {
  const { follow, shape } = reframe;
  const { by, from, to } = reframe.over ?? { by: 'output', ...place.all };
  const box = boxAt(reframe, (place.momentAfter(after)[by] - from) / Math.max(to - from, Number.EPSILON));
  const rate = rateToNumber(place.rate);
  const middle =
    follow && followedPlace((seconds) => place.pointAfter(reframe, after + seconds * rate), follow.seconds);
  const within = (value: number, length: number): number => Math.min(1, Math.max(0, value / length));
  const there = middle && { x: within(middle.x, frame.width), y: within(middle.y, frame.height) };
  return framedBox(boxInFrame({ ...box, ...there }, shape, frame));
}

/** How a picture that is carried lies in the frame: aside by how far the point is from the frame's middle. */
function carrying(carry: Carry, after: number, place: EffectPlace, frame: Size): PictureSettings {
  const at = holdsFor(carry, place.momentAfter(after), 1) ? place.pointAfter(carry, after) : undefined;
  if (!at) return plainPicture;
  return { ...plainPicture, x: at.x / frame.width - 0.5, y: at.y / frame.height - 0.5 };
}

/** Pictures of which a part of the frame is seen, as settings say. */
function reframed(seen: Seen, settingsAfter: (after: number) => PictureSettings, frame: Size): Seen {
  return (after) => {
    const inside = seen(after);
    const settings = settingsAfter(after);
    if (inside.layers.length === 0 || isPlain(settings)) return inside;
    return { layers: [{ of: inside.layers, settings }], covers: inside.covers && coversFrame(settings, frame, frame) };
  };
}

/** Whether an effect is a draft's too: what takes little time, and moves what is seen. */
export const isDrafted = ({ kind }: Effect): boolean => kind === 'reframe' || kind === 'carry';
