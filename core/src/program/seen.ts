import type { PictureSettings } from '@hastig/contract';
import type { MadeWay, Mixing } from '../exposure';
import type { Size } from '../picture';

/** Which frame of which source is seen. */
export interface SeenFrame {
  sourceId: string;
  /** Source frame, clamped to the source. */
  frame: number;
  /** How far the picture is on its way from there to the next frame, 0 to less than 1, and made so; the frame itself where it is not told. */
  share?: number;
  way?: MadeWay;
  /** The nearest frame that is coded by itself stands for it. */
  key?: true;
  /** How the frames around it are moved first, by the key of `Program.steadies`. */
  steady?: string;
  /** The clip of the outermost sequence or group that shows it. */
  clipId: string;
}

/** Several frames of one source in one exposure: their mean, in linear light. */
export interface SeenMean {
  /** In the order of the source; their weights add up to 1. */
  parts: readonly { seen: SeenFrame; weight: number }[];
  /** They are moments of an exposure of which as many are taken as what moves asks for. */
  auto?: true;
  /** The light of each is brought to that of the frames around it that are looked at too, so many frames apart. */
  evenLight?: number;
}

/** Pictures of one source put together in linear light, by how much each counts, at the source's own size. */
export interface SeenSum extends Mixing {
  /** The first is the one that it is about. */
  sum: readonly { leaf: SeenLeaf; weight: number }[];
}

/** What one source gives to a picture. */
export type SeenLeaf = SeenFrame | SeenMean | SeenSum;

/**
 * Pictures put together in linear light: a layer that moves in its frame while the shutter is open, at some moments; copies of other
 * moments; or one that is lit otherwise.
 */
export interface SeenMix extends Mixing {
  /** The lowest first where they lie over each other. */
  moments: readonly { layers: SeenPicture; weight: number }[];
  /** What nothing covers is black, and lit as well. */
  opaque?: true;
}

/** One layer of a picture: what a source gives, what is put together, or the layers of a group whose picture has settings of its own. */
export interface SeenLayer {
  of: SeenLeaf | SeenMix | readonly SeenLayer[];
  /** How it lies in the frame; in the middle, as large as it fits, where this is not there. */
  settings?: PictureSettings;
  /** The frame that the layers of a group are laid in, where it is another one than the one around it. */
  frame?: Size;
  /** What lies beneath is not seen through it, also where it shows nothing. */
  covering?: true;
  /** Only what differs from what lies beneath is seen. */
  differing?: true;
}

/** What is seen at a moment, from the lowest layer upwards; empty where nothing is. What nothing covers is black. */
export type SeenPicture = readonly SeenLayer[];

export type SeenOf = SeenLayer['of'];
export const isSeenMean = (of: SeenOf): of is SeenMean => 'parts' in of;
export const isSeenFrame = (of: SeenOf): of is SeenFrame => 'sourceId' in of;
export const isSeenSum = (of: SeenOf): of is SeenSum => 'sum' in of;
export const isSeenMix = (of: SeenOf): of is SeenMix => 'moments' in of;
export const isLeaf = (of: SeenOf): of is SeenLeaf => isSeenFrame(of) || isSeenMean(of) || isSeenSum(of);

/** The same leaf, seen by another clip. */
function leafFor(clipId: string, leaf: SeenLeaf): SeenLeaf {
  if (isSeenFrame(leaf)) return { ...leaf, clipId };
  if (isSeenSum(leaf)) return { ...leaf, sum: leaf.sum.map((part) => ({ ...part, leaf: leafFor(clipId, part.leaf) })) };
  return { ...leaf, parts: leaf.parts.map(({ seen, weight }) => ({ seen: { ...seen, clipId }, weight })) };
}

/** The same layer, seen by another clip. */
export function namedFor(clipId: string, layer: SeenLayer): SeenLayer {
  const { of } = layer;
  const named = (layers: SeenPicture): SeenPicture => layers.map((inner) => namedFor(clipId, inner));
  if (isLeaf(of)) return { ...layer, of: leafFor(clipId, of) };
  if (isSeenMix(of)) {
    const moments = of.moments.map(({ layers, weight }) => ({ layers: named(layers), weight }));
    return { ...layer, of: { ...of, moments } };
  }
  return { ...layer, of: named(of) };
}

/** What the sources give to a picture, from the lowest layer upwards. */
export function leavesOf(picture: SeenPicture): SeenLeaf[] {
  return picture.flatMap(({ of }) => {
    if (isLeaf(of)) return [of];
    return isSeenMix(of) ? of.moments.flatMap(({ layers }) => leavesOf(layers)) : leavesOf(of);
  });
}

/** The frames that one source gives to a picture, in order. */
export function leafFrames(leaf: SeenLeaf): SeenFrame[] {
  if (isSeenFrame(leaf)) return [leaf];
  return isSeenMean(leaf) ? leaf.parts.map(({ seen }) => seen) : leaf.sum.flatMap((part) => leafFrames(part.leaf));
}

/** The source frames a picture is made of, from the lowest layer upwards. */
export function framesOf(picture: SeenPicture): SeenFrame[] {
  return leavesOf(picture).flatMap(leafFrames);
}

/** The frame that counts most of what a source gives, of the picture itself. */
export function mainFrame(leaf: SeenLeaf): SeenFrame {
  if (isSeenFrame(leaf)) return leaf;
  if (isSeenSum(leaf)) return mainFrame(leaf.sum[0]!.leaf);
  return leaf.parts.reduce((most, part) => (part.weight > most.weight ? part : most)).seen;
}

/** The uppermost source frame of a picture: what a readout names. */
export function topFrame(picture: SeenPicture): SeenFrame | undefined {
  const top = leavesOf(picture).at(-1);
  return top && mainFrame(top);
}

/** What makes a picture that is one source's as it lies by itself; undefined of any other. */
export function singleLeaf(picture: SeenPicture): SeenLeaf | undefined {
  const [layer] = picture;
  if (picture.length !== 1 || !layer || layer.settings) return undefined;
  return isLeaf(layer.of) ? layer.of : undefined;
}
