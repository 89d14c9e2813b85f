import {
  isSeenMean,
  isSeenSum,
  leafFrames,
  type MadeWay,
  type SeenFrame,
  type SeenLeaf,
  type SeenSum,
} from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import type { SourceFrames } from '../media/source-frames';
import { enoughParts, farMoved } from './auto-samples';
import type { Betweens } from './between';
import type { EvenLight } from './even-light';
import type { MakerPool } from './makers/maker-pool';
import { meanOf, mixOf, type Part, type Place } from './mean';
import { neighboursOf, type Neighbours } from './neighbours';
import type { Repeats } from './repeats';

/** What makes pictures of a source's frames. */
export interface LeafMakers {
  makers: MakerPool;
  betweens: Betweens;
  repeats: Repeats;
  evenLight: EvenLight;
}

/** Arrows across a picture by which is told how far things move in it. */
const ARROWS = 48;

/** Frames of a sum that are asked for at once. */
const MOST_ANNOUNCED = 12;

type Blend = Part & { way?: MadeWay };

/** Makes what one source gives to a picture: a frame, what is between two, or the mean of several. */
export class LeafPicture {
  /** The shares, 0 to 1, of what was made between frames that could not be made of what moved. */
  readonly doubts: number[] = [];

  /** Milliseconds that putting pictures together took, apart from getting them. */
  mixed = 0;

  constructor(
    private readonly by: LeafMakers,
    private readonly frames: SourceFrames,
    private readonly signal?: AbortSignal,
  ) {}

  /**
   * @returns the caller closes it
   * @throws what the decoder throws
   */
  async of(leaf: SeenLeaf): Promise<VideoSample> {
    if (isSeenSum(leaf)) return this.sum(leaf);
    if (!isSeenMean(leaf)) {
      const parts = await this.blended([{ ...placeOf(leaf), weight: 1 }]);
      return parts.length === 1 ? this.at(parts[0]!) : this.mean(parts);
    }
    const told = leaf.parts.map(({ seen, weight }): Blend => ({ ...placeOf(seen), weight }));
    const parts = await this.blended(leaf.auto ? await this.enough(told) : told);
    return this.mean(leaf.evenLight ? await this.evened(parts, leaf.evenLight) : parts);
  }

  /** Pictures put together, from the first to the last frame of them: a decoder passes them once. */
  private sum({ sum, ...mixing }: SeenSum): Promise<VideoSample> {
    const passing = sum.map((part) => ({ ...part, first: leafFrames(part.leaf)[0]!.frame }));
    passing.sort((a, b) => a.first - b.first);
    this.frames.prefetch([...new Set(passing.map(({ first }) => first))].slice(0, MOST_ANNOUNCED), 1);
    let fetched = 0;
    const fetch = async (leaf: SeenLeaf): Promise<VideoSample> => {
      const started = performance.now();
      const sample = await this.of(leaf);
      fetched += performance.now() - started;
      return sample;
    };
    const addends = passing.map(({ leaf, weight }) => ({ weight, get: () => fetch(leaf) }));
    const started = performance.now();
    return mixOf(this.by.makers, addends, mixing).finally(() => {
      this.mixed += Math.max(0, performance.now() - started - fetched);
    });
  }

  private mean(parts: readonly Part[]): Promise<VideoSample> {
    const [only] = parts;
    if (parts.length === 1 && only!.gain === undefined) return this.at(only!);
    return meanOf(this.by.makers, this.frames, parts, (place) => this.at(place));
  }

  private frameAt(frame: number, key?: true): Promise<VideoSample> {
    return this.frames.get(key ? nearestKey(this.frames, frame) : frame, this.signal);
  }

  /** What is at a place: a frame, or what moved made on its way. */
  private async at({ frame, share, key }: Place): Promise<VideoSample> {
    if (share === undefined) return this.frameAt(frame, key);
    const between = await this.neighbours(frame, share, 'compensated');
    if (between.share === 0) return this.frameAt(between.first);
    const made = await this.by.betweens.get(this.frames, between, this.signal);
    if (!made) return meanOf(this.by.makers, this.frames, sharesOf(between, 1), ({ frame: one }) => this.frameAt(one));
    this.doubts.push(made.doubt);
    return made.sample;
  }

  // What a file's times tell is known at once; whether frames look alike only where what moves is looked for.
  private neighbours(frame: number, share: number, way: MadeWay | undefined): Promise<Neighbours> {
    const { repeats } = this.by;
    const looks = (at: number): Promise<boolean> => repeats.isRepeated(this.frames, at, this.signal);
    return neighboursOf(this.frames, frame, share, way === 'compensated' ? looks : undefined);
  }

  /** What is blended as the frames it consists of, in order, each once. */
  private async blended(parts: readonly Blend[]): Promise<Part[]> {
    if (!parts.some(({ way }) => way === 'blended')) return [...parts];
    const weights = new Map<number, number>();
    for (const { frame, share, weight } of parts) {
      const between = await this.neighbours(frame, share ?? 0, 'blended');
      for (const part of sharesOf(between, weight))
        weights.set(part.frame, (weights.get(part.frame) ?? 0) + part.weight);
    }
    return [...weights].sort(([a], [b]) => a - b).map(([frame, weight]) => ({ frame, weight }));
  }

  /** Of the moments of an exposure as many as what moves asks for, by what moves at its beginning, middle and end. */
  private async enough(parts: readonly Blend[]): Promise<Blend[]> {
    if (parts[0]!.way === 'blended') return [...parts];
    const places = [parts[0]!, parts[parts.length >> 1]!, parts.at(-1)!];
    const looked = new Set<number>();
    let moved = 0;
    for (const { frame, share } of places) {
      const { first, second } = await this.neighbours(frame, Math.max(share ?? 0, LITTLE), 'compensated');
      if (first === second || looked.has(first)) continue;
      looked.add(first);
      const arrows = await this.by.betweens.movement(this.frames, { first, second }, ARROWS, this.signal);
      const { width, height } = await this.size(first);
      moved = Math.max(moved, farMoved(arrows, width, height) / (second - first));
    }
    return enoughParts(parts, moved);
  }

  private async size(frame: number): Promise<{ width: number; height: number }> {
    const sample = await this.frameAt(frame);
    const { width, height } = sample.visibleRect;
    sample.close();
    return { width, height };
  }

  private async evened(parts: readonly Part[], step: number): Promise<Part[]> {
    const even: Part[] = [];
    for (const part of parts) {
      const { frame, share = 0, key } = part;
      const standsFor = (at: number): number => (key ? nearestKey(this.frames, at) : at);
      const gainAt = (at: number): Promise<number> =>
        this.by.evenLight.gainAt(this.frames, at, step, standsFor, this.signal);
      const first = await gainAt(frame);
      const gain = share > 0 ? first * (1 - share) + share * (await gainAt(frame + 1)) : first;
      even.push({ ...part, gain });
    }
    return even;
  }
}

/** A place that is after a frame, however little. */
const LITTLE = 1e-3;

const placeOf = ({ frame, share, way, key }: SeenFrame): Place & { way?: MadeWay } => ({
  frame,
  ...(share !== undefined && { share }),
  ...(way && { way }),
  ...(key && { key }),
});

/** Two neighbours by their share of a weight; one where the other counts nothing. */
function sharesOf({ first, second, share }: Neighbours, weight: number): Part[] {
  if (share === 0) return [{ frame: first, weight }];
  return [
    { frame: first, weight: (1 - share) * weight },
    { frame: second, weight: share * weight },
  ];
}

/** The nearest frame with which a group begins that is coded by itself. */
function nearestKey(frames: SourceFrames, frame: number): number {
  const { start, end } = frames.group(frame);
  return end < frames.frames && end - frame < frame - start ? end : start;
}
