import type { ExposureStep, ProjectDocument, RetimeMap } from '@hastig/contract';
import { exposureOf, wishOf, type ExposureWish } from '../exposure';
import { compile, frameCount, heldFrame, isConstantSpeed, paceWarnings, remedyFor, type PaceWarning } from '../retime';
import { programOf, type Program, type ProgramItem } from '../program';
import { clipMap } from '../timeline/clip-map';
import { closeGap } from '../timeline/edit/gap';
import { withTiming } from '../timeline/edit/length';
import { findClip, SEQUENCE } from '../timeline/lookup';
import { rateToNumber } from '../time';

/** What may be wrong with a film before it goes out. */
type FindingKind = 'gap' | 'unseen' | 'standstill' | PaceWarning['kind'];

/** Something of the film that was perhaps not meant, and where. */
export interface Finding {
  kind: FindingKind;
  /** Frames of the film, `to` not included. */
  from: number;
  to: number;
  /** The clip it is about; of a gap none. */
  clipId?: string;
  /** The clip's warning that it is, see `paceWarnings`. */
  warning?: PaceWarning;
  /** The figure it turns on: frames, or seconds of what is fast. */
  amount: number;
}

/** Seconds for which one frame that nobody froze is seen before it is told. */
const STILL_SECONDS = 0.5;

const warned = new WeakMap<RetimeMap, PaceWarning[]>();

/** A map's warnings; found once for each. */
function warningsOf(map: RetimeMap): PaceWarning[] {
  const known = warned.get(map) ?? paceWarnings(map);
  warned.set(map, known);
  return known;
}

interface Run {
  from: number;
  to: number;
}

const stills = new WeakMap<RetimeMap, Run[]>();

/** Where one frame of the source stands long though nobody froze it: parts that are no freeze, in output frames. */
function standstills(map: RetimeMap): Run[] {
  const known = stills.get(map);
  if (known) return known;
  const ready = compile(map);
  const least = STILL_SECONDS * rateToNumber(map.outputRate);
  const total = frameCount(map);
  const found: Run[] = [];
  map.spans.forEach((span, index) => {
    // What runs at one speed stands as it was told, and slow parts have a warning of their own.
    if (isConstantSpeed(span)) return;
    const [first, end] = [Math.ceil(ready.times[index]! - 1e-6), Math.min(total, Math.ceil(ready.times[index + 1]! - 1e-6))]; // prettier-ignore
    let from = first;
    for (let n = first + 1; n <= end; n++) {
      if (n < end && heldFrame(ready, n) === heldFrame(ready, from)) continue;
      if (n - from >= least) found.push({ from, to: n });
      from = n;
    }
  });
  stills.set(map, found);
  return found;
}

/** A run of a clip's output as frames of the film; undefined where it is not seen there. */
function inFilm({ from, at, frames }: ProgramItem, run: Run): Run | undefined {
  const [start, end] = [Math.max(run.from, at), Math.min(run.to, at + frames)];
  return end > start + 1e-6 ? { from: from + start - at, to: from + end - at } : undefined;
}

/** What is wished everywhere of pictures, by steps that hold everywhere. */
const wishOverall = (steps: readonly ExposureStep[] = []): ExposureWish =>
  wishOf(
    steps.filter(({ off, over }) => !off && !over),
    1,
  );

/** Whether slow parts of an item show the frame that stands, as it or the film says. */
const holdsFrames = ({ exposures }: ProgramItem, film: Program['exposures']): boolean =>
  exposureOf(wishOverall(exposures), wishOverall(film)).slow === 'held';

function* findingsOf(item: ProgramItem, film: Program['exposures']): Generator<Finding> {
  const { map, clipId, picture, from, frames } = item;
  if (picture && !picture.keys && picture.opacity === 0)
    yield { kind: 'unseen', from, to: from + frames, clipId, amount: frames };
  for (const warning of warningsOf(map)) {
    // What is made between frames makes up for the floor.
    if (warning.kind === 'below-floor' && !holdsFrames(item, film)) continue;
    const seen = inFilm(item, warning);
    if (seen) yield { kind: warning.kind, ...seen, clipId, warning, amount: warning.amount };
  }
  for (const still of standstills(map)) {
    const seen = inFilm(item, still);
    if (seen) yield { kind: 'standstill', ...seen, clipId, amount: still.to - still.from };
  }
}

/** Where nothing lies on any picture track though the film goes on. */
function gapsOf(items: readonly ProgramItem[], length: number): Finding[] {
  const found: Finding[] = [];
  let covered = 0;
  const gap = (to: number): void => {
    if (to > covered + 1e-6) found.push({ kind: 'gap', from: covered, to, amount: to - covered });
  };
  for (const { from, frames } of [...items].sort((a, b) => a.from - b.from)) {
    gap(from);
    covered = Math.max(covered, from + frames);
  }
  gap(length);
  return found;
}

/**
 * Looks through a film for what was perhaps not meant: each `next` is what was found of one clip, so that a long film is looked through a
 * few milliseconds at a time. Clean means nothing is found.
 */
export function* checkFilm(project: ProjectDocument): Generator<readonly Finding[]> {
  const program = programOf(project, SEQUENCE);
  const pictures = program.tracks.filter(({ kind }) => kind === 'picture').flatMap(({ items }) => items);
  if (pictures.length > 0) yield gapsOf(pictures, program.length);
  for (const item of pictures) yield [...findingsOf(item, program.exposures)];
}

/** What one tap does about a finding: its words and the edit. */
interface FilmRemedy {
  words: string;
  apply(project: ProjectDocument): ProjectDocument;
}

/** The remedy for a finding, where there is one. */
export function filmRemedy(project: ProjectDocument, finding: Finding): FilmRemedy | undefined {
  const { kind, clipId, warning, from, to } = finding;
  if (kind === 'gap') return { words: 'Close the gap', apply: (now) => closeGap(now, SEQUENCE, from, to) };
  const clip = clipId === undefined ? undefined : findClip(project, clipId);
  if (!clip || !warning) return undefined;
  const map = clipMap(project, clip, project.sequence.rate);
  const remedy = map && remedyFor(map, warning);
  return remedy && { words: remedy.words, apply: (now) => withTiming(now, clip.id, remedy.apply(map)) };
}
