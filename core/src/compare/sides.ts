import type { ExposureStep, ProjectDocument, Rate } from '@hastig/contract';
import { pictureOf } from '../counting';
import { constantSpan, EditRefused, positionAt, speedAt } from '../retime';
import { clipMap, mapOf, sourceFrames, sourceRate } from '../timeline/clip-map';
import { trackKindOf } from '../timeline/edit/insert';
import { findClip, findSource, SEQUENCE } from '../timeline/lookup';
import { clipProgram, mapProgram, programOf, type Program } from '../program';
import { rateRatio } from '../time';
import { versionsIn, withContent, type Content, type VersionTarget } from '../versions';

/**
 * Ways of making pictures that something is compared in, whatever it says itself: single frames, blends of two, what lies between
 * them along what moves, or all that passes while a shutter is open all the time.
 */
export const madeWays = ['single', 'blend', 'flow', 'open'] as const;
export type MadeInWay = (typeof madeWays)[number];

const exposures: Record<MadeInWay, ExposureStep> = {
  single: { id: 'compared', slow: 'held', shutter: 0 },
  blend: { id: 'compared', slow: 'blended', shutter: 0 },
  flow: { id: 'compared', slow: 'compensated', shutter: 0 },
  open: { id: 'compared', slow: 'blended', shutter: 360 },
};

/** A film that was rendered, to be seen beside what it came of. */
export interface RenderedFile {
  /** An id that no source has. */
  sourceId: string;
  rate: Rate;
  frames: number;
  width: number;
  height: number;
}

/** One of two that are compared. */
export type Side =
  | { is: 'now' | 'source' }
  | { is: 'version'; id: string }
  | { is: 'made'; way: MadeInWay }
  | { is: 'content'; content: Content }
  | { is: 'file'; file: RenderedFile };

let counted = 0;
// Nobody keeps what is compared: its ids need only be told apart.
const passingId = (): string => `compared-${counted++}`;

function programAs(project: ProjectDocument, target: VersionTarget): Program | undefined {
  if (!('clip' in target)) return programOf(project, target.container);
  const clip = findClip(project, target.clip);
  return clip && clipMap(project, clip) ? clipProgram(project, clip) : undefined;
}

/** What a clip is made of at its own time: from the first frame that it shows, the way it plays it. */
function ownTime(project: ProjectDocument, clipId: string): Program | undefined {
  const clip = findClip(project, clipId);
  const source = clip?.of.kind === 'source' ? findSource(project, clip.of.id) : undefined;
  if (!clip || !source) return undefined;
  const map = mapOf(project, clip);
  const [rate, frames] = [sourceRate(source), sourceFrames(source)];
  const backwards = speedAt(map, 0) < 0;
  const start = Math.min(Math.max(0, positionAt(map, 0)), frames - 1);
  const left = backwards ? start : frames - start;
  const spans = [constantSpan(backwards ? -1 : 1, Math.max(1, left / rateRatio(rate, map.outputRate)))];
  const program = mapProgram(
    { sourceRate: rate, outputRate: map.outputRate, sourceFrames: frames, start, spans },
    source.id,
    trackKindOf(project, clip),
  );
  return { ...program, sizes: { [source.id]: pictureOf(source.facts) } };
}

function fileProgram({ sourceId, rate, frames, width, height }: RenderedFile): Program {
  const map = { sourceRate: rate, outputRate: rate, sourceFrames: frames, start: 0, spans: [constantSpan(1, frames)] };
  return { ...mapProgram(map, sourceId), sizes: { [sourceId]: { width, height } } };
}

function laidProgram(project: ProjectDocument, target: VersionTarget, content: Content): Program | undefined {
  try {
    return programAs(withContent(project, target, content, passingId), target);
  } catch (error) {
    if (error instanceof EditRefused) return undefined;
    throw error;
  }
}

const kept = new WeakMap<ProjectDocument, Map<string, Program | undefined>>();
const keptContent = new WeakMap<Content, { project: ProjectDocument; target: string; program: Program | undefined }>();

/**
 * The program of a side: the same one as long as project and side are, so that what is not changed is not told anew.
 *
 * @returns undefined where it has nothing to show: a version that is gone or can't be used, a group's own time
 */
export function sideProgram(project: ProjectDocument, target: VersionTarget, side: Side): Program | undefined {
  if (side.is === 'content') {
    const known = keptContent.get(side.content);
    const name = JSON.stringify(target);
    if (known?.project === project && known.target === name) return known.program;
    const program = laidProgram(project, target, side.content);
    keptContent.set(side.content, { project, target: name, program });
    return program;
  }
  const programs = kept.get(project) ?? new Map<string, Program | undefined>();
  kept.set(project, programs);
  const key = JSON.stringify([target, side]);
  if (!programs.has(key)) programs.set(key, made(project, target, side));
  return programs.get(key);
}

function made(
  project: ProjectDocument,
  target: VersionTarget,
  side: Exclude<Side, { is: 'content' }>,
): Program | undefined {
  if (side.is === 'source') return 'clip' in target ? ownTime(project, target.clip) : undefined;
  if (side.is === 'file') return fileProgram(side.file);
  const now = programAs(project, target);
  if (!now) return undefined;
  if (side.is === 'made') return { ...now, exposures: [exposures[side.way]] };
  if (side.is !== 'version') return now;
  const version = versionsIn(project, target).find(({ id }) => id === side.id);
  return version && laidProgram(project, target, version.content);
}

/** Whether something has a time of its own beside that of a clip: footage. */
export const hasOwnTime = (project: ProjectDocument, target: VersionTarget): boolean =>
  'clip' in target && findClip(project, target.clip)?.of.kind === 'source';

/** What has versions of a place's address. */
export const versionTarget = (clipId: string | undefined, containerId: string = SEQUENCE): VersionTarget =>
  clipId === undefined ? { container: containerId } : { clip: clipId };
