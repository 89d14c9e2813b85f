import type { Clip, ProjectDocument, Rate, RetimeMap, Source } from '@hastig/contract';
import { fileCountOf, kindOf, pictureOf, type FootageKind } from '../counting';
import { fieldsOf, framesPerFileFrame } from '../fields';
import type { Size } from '../picture';
import { compile, positionAt } from '../retime/map';
import { makeRate, rateRatio, rateToNumber } from '../time';
import { containerFrames } from './layout';
import { findGroup, findSource, placeOf } from './lookup';

/** How many frames something has and how many of them a second. */
interface Footage {
  rate: Rate;
  frames: number;
}

/** The rate at which a source's frames come: what the file's are read at, twice that where both fields are frames. */
export function sourceRate(source: Source): Rate {
  const rate = fileRate(source);
  const times = framesPerFileFrame(fieldsOf(source));
  return times === 1 ? rate : makeRate(rate.num * times, rate.den);
}

/** Frames of a source: as its file is counted, or twice as many where both fields are frames. */
export function sourceFrames(source: Source): number {
  return fileCountOf(source).frames * framesPerFileFrame(fieldsOf(source));
}

/** The rate at which the file's own frames are taken: what they are read at, or what they are counted at. */
export function fileRate(source: Source): Rate {
  return source.readAs ?? fileCountOf(source).rate;
}

/**
 * Frames a second in which a source is looked at by itself: its own, and of sound alone the sequence's, for nobody steps from
 * sample to sample. `positions` of the source pass with each.
 */
export function lookAt(project: ProjectDocument, source: Source): { rate: Rate; positions: number } {
  const own = sourceRate(source);
  const rate = kindOf(source.facts) === 'sound' ? project.sequence.rate : own;
  return { rate, positions: rateRatio(own, rate) };
}

const footages = new WeakMap<Source, Footage>();

// Asked for by every clip of a source, thousands of times with every edit.
function sourceFootage(source: Source): Footage {
  let footage = footages.get(source);
  if (!footage) {
    footage = { rate: sourceRate(source), frames: sourceFrames(source) };
    footages.set(source, footage);
  }
  return footage;
}

/** What a clip is made of: a source's frames, or a group's. Undefined where that is not in the project. */
function footageOf(project: ProjectDocument, { of }: Pick<Clip, 'of'>): Footage | undefined {
  if (of.kind === 'source') {
    const source = findSource(project, of.id);
    return source && sourceFootage(source);
  }
  const group = findGroup(project, of.id);
  // A group that was emptied still has a first frame to stand on; there is nothing in it.
  return group && { rate: group.rate, frames: Math.max(1, containerFrames(project, group)) };
}

/** The frame that pictures are laid in, a group's too. */
export function frameSize({ sequence: { width, height } }: ProjectDocument): Size {
  return { width, height };
}

/** How large a clip's picture is by itself: a source's, or the frame for a group and for what has no picture. */
export function pictureSize(project: ProjectDocument, { of }: Pick<Clip, 'of'>): Size {
  const source = of.kind === 'source' ? findSource(project, of.id) : undefined;
  return (source && pictureOf(source.facts)) ?? frameSize(project);
}

/** What kind of footage a clip is made of; undefined for a group's, and where it is not in the project. */
export function footageKind(project: ProjectDocument, { of }: Pick<Clip, 'of'>): FootageKind | undefined {
  const source = of.kind === 'source' ? findSource(project, of.id) : undefined;
  return source && kindOf(source.facts);
}

/** Frames per second of what a clip lies in. */
export function outputRateOf(project: ProjectDocument, clipId: string): Rate {
  return placeOf(project, clipId)?.container.rate ?? project.sequence.rate;
}

const maps = new WeakMap<Clip['timing'], RetimeMap>();

const equal = (a: Rate, b: Rate): boolean => a === b || (a.num === b.num && a.den === b.den);

/**
 * A clip's retime map: its timing with the rates of what it is made of and of what it lies in. The same object as
 * long as none of them changes, so that what is computed from it is computed once.
 *
 * @param outputRate of what it lies in, where that is known already
 */
export function clipMap(
  project: ProjectDocument,
  clip: Clip,
  outputRate = outputRateOf(project, clip.id),
): RetimeMap | undefined {
  const footage = footageOf(project, clip);
  if (!footage) return undefined;
  const known = maps.get(clip.timing);
  if (
    known &&
    equal(known.sourceRate, footage.rate) &&
    equal(known.outputRate, outputRate) &&
    known.sourceFrames === footage.frames
  ) {
    return known;
  }
  const map: RetimeMap = { sourceRate: footage.rate, outputRate, sourceFrames: footage.frames, ...clip.timing };
  maps.set(clip.timing, map);
  return map;
}

/** The map of a clip that must be there. */
export function mapOf(project: ProjectDocument, clip: Clip, outputRate?: Rate): RetimeMap {
  const map = clipMap(project, clip, outputRate);
  if (!map) throw new RangeError(`clip ${clip.id} uses ${clip.of.kind} ${clip.of.id}, which doesn’t exist`);
  return map;
}

/**
 * The part of a source that a clip of it shows, in whatever order: seconds from its first frame on the clock of the file, at whatever
 * rate its frames are read.
 */
export function shownSeconds(project: ProjectDocument, clip: Clip, source: Source): { from: number; to: number } {
  const ready = compile(mapOf(project, clip));
  let [first, last] = [Infinity, -Infinity];
  for (let n = clip.shown.from; n <= clip.shown.from + clip.shown.frames; n++) {
    const position = positionAt(ready, n);
    [first, last] = [Math.min(first, position), Math.max(last, position)];
  }
  const rate = rateToNumber(fileCountOf(source).rate) * framesPerFileFrame(fieldsOf(source));
  return { from: first / rate, to: last / rate };
}
