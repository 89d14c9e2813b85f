import type { Clip, ProjectDocument, Rate, RetimeMap, Source } from '@hastig/contract';
import {
  clipMap,
  clipProgram,
  comparedProgram,
  findClip,
  findGroup,
  findSource,
  constantSpan,
  isFramed,
  lookAt,
  mapProgram,
  pictureOf,
  programOf,
  sameRate,
  sideProgram,
  sourceFrames,
  sourceRate,
  tracked,
  type CompareSide,
  type Program,
} from '@hastig/core';
import { locationOf as locationAt, type MediaLocation } from '@hastig/engine';
import { createSelector } from '@reduxjs/toolkit';
import { derivedAddress, mediaAddress } from './api';
import { derivedId } from './derived-slice';
import type { RootState } from './store';

/** A clip with what it is made of and its map, as the document has them. */
interface OpenClip {
  clip: Clip;
  /** Undefined for a clip of a group. */
  source: Source | undefined;
  map: RetimeMap;
}

function opened(project: ProjectDocument | null, clipId: string): OpenClip | undefined {
  const clip = project ? findClip(project, clipId) : undefined;
  const map = project && clip && clipMap(project, clip);
  if (!project || !clip || !map) return undefined;
  return { clip, map: tracked(map), source: clip.of.kind === 'source' ? findSource(project, clip.of.id) : undefined };
}

const openClips = new WeakMap<ProjectDocument, Map<string, OpenClip | undefined>>();

/** The clip as the document has it; undefined where project or clip are not there. The same object for the same document. */
export function openClip(state: RootState, clipId: string): OpenClip | undefined {
  const { document } = state.project;
  if (!document) return undefined;
  const known = openClips.get(document) ?? new Map<string, OpenClip | undefined>();
  openClips.set(document, known);
  if (!known.has(clipId)) known.set(clipId, opened(document, clipId));
  return known.get(clipId);
}

/** The project that is shown: the document with what is being tried out. */
export function shownProject(state: RootState): ProjectDocument | null {
  return state.session.trial ?? state.project.document;
}

/** The map that is shown: what is being tried out, or else the document's. */
export function shownMap(state: RootState, clipId: string): RetimeMap | undefined {
  const project = shownProject(state);
  const clip = project ? findClip(project, clipId) : undefined;
  return project && clip ? clipMap(project, clip) : undefined;
}

const nothing: Program = { rate: { num: 30, den: 1 }, length: 0, tracks: [], groups: {}, sizes: {} };

const sourcePrograms = new WeakMap<Source, { rate: Rate; program: Program }>();

/** A source as it is, from its beginning to its end. */
function sourceProgram(project: ProjectDocument, source: Source | undefined): Program {
  if (!source) return nothing;
  const { rate, positions } = lookAt(project, source);
  const known = sourcePrograms.get(source);
  if (known && sameRate(known.rate, rate)) return known.program;
  const frames = sourceFrames(source);
  const spans = [constantSpan(1, frames / positions)];
  const map = { sourceRate: sourceRate(source), outputRate: rate, sourceFrames: frames, start: 0, spans };
  const program = mapProgram(map, source.id, pictureOf(source.facts) ? 'picture' : 'sound');
  sourcePrograms.set(source, { rate, program });
  return program;
}

/** What is compared, by itself; undefined where a side has nothing to show. */
export const comparedSides = createSelector(
  [shownProject, (state: RootState) => state.compare.on],
  (project, on): Record<CompareSide, Program | undefined> | undefined =>
    project && on
      ? { a: sideProgram(project, on.target, on.sides.a), b: sideProgram(project, on.target, on.sides.b) }
      : undefined,
);

/** Both together. */
const bothCompared = createSelector(
  [comparedSides, (state: RootState) => state.compare.on],
  (sides, on): Program | undefined => {
    if (!sides || !on) return undefined;
    const { a = nothing, b = nothing } = sides;
    return comparedProgram(a, b, on.how);
  },
);

/** What the address is about, as the engine takes it; an empty program where nothing is. */
const targetProgram = createSelector(
  [shownProject, (state: RootState) => state.session.target],
  (project, target): Program => {
    if (!project || !target) return nothing;
    if ('container' in target) return programOf(project, target.container);
    if ('source' in target) return sourceProgram(project, findSource(project, target.source));
    const clip = findClip(project, target.clip);
    return clip && clipMap(project, clip) ? clipProgram(project, clip) : nothing;
  },
);

/** What is on the stage, as the engine takes it. */
export const stageProgram = (state: RootState): Program => bothCompared(state) ?? targetProgram(state);

/** Where a source's file is, and how its frames are taken and counted. */
export const locationOf = (source: Source): MediaLocation => locationAt(source, mediaAddress(source.sha256));

/** A proxy among what is derived from a file. */
export const PROXY = { kind: 'proxy', params: '' } as const;

/** Where the files of all sources are, without copies: what a render is made of. */
export const sourceLocations = createSelector([(state: RootState) => state.project.document?.sources], (sources = []) =>
  Object.fromEntries(sources.map((source) => [source.id, locationOf(source)])),
);

/** Where all sources are, proxies included: what is played and dragged through; and rendered files that are compared. */
export const stageLocations = createSelector(
  [
    sourceLocations,
    (state: RootState) => state.project.document?.sources,
    (state: RootState) => state.derived.pieces,
    (state: RootState) => state.compare.files,
  ],
  (locations, sources = [], derived, files): Readonly<Record<string, MediaLocation>> => ({
    ...files,
    ...Object.fromEntries(
      sources.map(({ id, sha256 }) => {
        const pieces = derived[derivedId(sha256, PROXY)] ?? [];
        const location = locations[id]!;
        const proxy = { url: derivedAddress(sha256, PROXY), pieces };
        return [id, pieces.length === 0 ? location : { ...location, proxy }];
      }),
    ),
  }),
);

/** Pixels of what the address is about. */
const targetSize = createSelector(
  [shownProject, (state: RootState) => state.session.target],
  (project, target): { width: number; height: number } => {
    const clip = project && target && 'clip' in target ? findClip(project, target.clip) : undefined;
    const own = clip?.of.kind === 'source' && !isFramed(clip) ? clip.of.id : '';
    const sourceId = target && 'source' in target ? target.source : own;
    const source = project ? findSource(project, sourceId) : undefined;
    const { width, height } = (source && pictureOf(source.facts)) ?? project?.sequence ?? { width: 1280, height: 720 };
    return { width, height };
  },
);

/** Pixels of what is on the stage. */
export const stageSize = (state: RootState): { width: number; height: number } =>
  bothCompared(state)?.frame ?? targetSize(state);

/** The name of what is on the stage. */
export function targetName(state: RootState): string {
  const { document } = state.project;
  const { target } = state.session;
  if (!document || !target) return '';
  if ('clip' in target) return findClip(document, target.clip)?.name ?? '';
  if ('source' in target) return findSource(document, target.source)?.name ?? '';
  return findGroup(document, target.container)?.name ?? document.name;
}
