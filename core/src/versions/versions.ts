import type {
  Clip,
  ClipContent,
  FilmContent,
  GroupContent,
  ProjectDocument,
  Version,
  Versioned,
} from '@hastig/contract';
import { EditRefused } from '../retime';
import { withStoredTiming, carryUp } from '../timeline/edit/length';
import { needClip, withClip } from '../timeline/edit/items';
import { checkedName } from '../timeline/edit/name';
import { findClip, findGroup, SEQUENCE } from '../timeline/lookup';
import { clipContent, clipWith, filmContent, groupContent, type Content } from './content';
import { layClip, layFilm, layGroup } from './lay';

/** What has versions: a clip, a group, or the film (`SEQUENCE`). */
export type VersionTarget = { clip: string } | { container: string };

/** What can be taken from a version by itself. */
export const versionParts = ['timing', 'picture', 'sound'] as const;
export type VersionPart = (typeof versionParts)[number];

/** How something that has versions is looked at; undefined where it is not there. */
function owner(project: ProjectDocument, target: VersionTarget): Versioned<Content> | undefined {
  if ('clip' in target) return findClip(project, target.clip);
  return target.container === SEQUENCE ? project : findGroup(project, target.container);
}

/** The version that is worked on; undefined where there are none. */
export const liveVersionOf = (project: ProjectDocument, target: VersionTarget): string | undefined =>
  owner(project, target)?.liveVersion;

function needOwner(project: ProjectDocument, target: VersionTarget): Versioned<Content> {
  const found = owner(project, target);
  if (!found) throw new EditRefused('version', 'This is no longer in the project.');
  return found;
}

function needVersion(project: ProjectDocument, target: VersionTarget, id: string): Version<Content> {
  const found = needOwner(project, target).versions?.find((one) => one.id === id);
  if (!found) throw new EditRefused('version', 'This version is no longer in the project.');
  return found;
}

/** What something is now, as a version of it holds it; undefined where it is not there. */
export function contentOf(project: ProjectDocument, target: VersionTarget): Content | undefined {
  if ('clip' in target) {
    const clip = findClip(project, target.clip);
    return clip && clipContent(clip);
  }
  if (target.container === SEQUENCE) return filmContent(project);
  const group = findGroup(project, target.container);
  return group && groupContent(project, group);
}

/** The project with something in it as it was then; which version of it is worked on stays as told. */
export function withContent(
  project: ProjectDocument,
  target: VersionTarget,
  content: Content,
  newId: () => string,
): ProjectDocument {
  if ('clip' in target) return layClip(project, target.clip, content as ClipContent);
  if (target.container === SEQUENCE) return layFilm(project, content as FilmContent);
  return layGroup(project, target.container, content as GroupContent, newId);
}

/** The versions of something, the one that is worked on as it is now. */
export function versionsIn(project: ProjectDocument, target: VersionTarget): Version<Content>[] {
  const { liveVersion, versions = [] } = owner(project, target) ?? {};
  return versions.map((one) => (one.id === liveVersion ? { ...one, content: contentOf(project, target)! } : one));
}

function withList(
  project: ProjectDocument,
  target: VersionTarget,
  versions: readonly Version<Content>[],
  liveVersion: string | undefined,
): ProjectDocument {
  const put = <T extends object>(thing: T): T => {
    const { liveVersion: _live, versions: _versions, ...rest } = thing as T & Versioned<Content>;
    return {
      ...rest,
      ...(versions.length > 0 && { ...(liveVersion !== undefined && { liveVersion }), versions }),
    } as T;
  };
  if ('clip' in target) return withClip(project, target.clip, put);
  if (target.container === SEQUENCE) return put(project);
  return { ...project, groups: project.groups.map((one) => (one.id === target.container ? put(one) : one)) };
}

/** A name that none of them has yet: “Version 2”. */
function freshName(names: readonly string[], base = 'Version'): string {
  let number = base === 'Version' ? 1 : 2;
  while (names.includes(`${base} ${number}`)) number++;
  return `${base} ${number}`;
}

// What is worked on is kept in the list as it is now; where it has no place there, as after two tabs were put together, it gets one.
function kept(project: ProjectDocument, target: VersionTarget, newId: () => string): Version<Content>[] {
  const { liveVersion } = needOwner(project, target);
  const list = versionsIn(project, target);
  if (list.some(({ id }) => id === liveVersion)) return list;
  const name = freshName(list.map((one) => one.name));
  return [...list, { id: newId(), name, content: contentOf(project, target)! }];
}

/**
 * Keeps something as it is now as a version, and goes on in a new one that begins as the same.
 *
 * @param name of the new one; one that is free unless told
 */
export function newVersion(
  project: ProjectDocument,
  target: VersionTarget,
  newId: () => string,
  name?: string,
): ProjectDocument {
  const list = kept(project, target, newId);
  const id = newId();
  const called = name === undefined ? freshName(list.map((one) => one.name)) : checkedName(name);
  return withList(project, target, [...list, { id, name: called, content: contentOf(project, target)! }], id);
}

/** Adds a version that is not worked on: what something was at another moment of the project's history. */
export function addVersion(
  project: ProjectDocument,
  target: VersionTarget,
  { id, name, content }: Version<Content>,
  newId: () => string,
): ProjectDocument {
  const list = kept(project, target, newId);
  const { liveVersion } = needOwner(project, target);
  const live = list.some((one) => one.id === liveVersion) ? liveVersion : list.at(-1)!.id;
  return withList(project, target, [...list, { id, name: checkedName(name), content }], live);
}

/** Works on another version from now on; the one that is left stays as it is. */
export function switchVersion(
  project: ProjectDocument,
  target: VersionTarget,
  id: string,
  newId: () => string,
): ProjectDocument {
  const { content } = needVersion(project, target, id);
  const list = kept(project, target, newId);
  return withList(withContent(project, target, content, newId), target, list, id);
}

/** Adds a copy of a version, which is not worked on. */
export function duplicateVersion(
  project: ProjectDocument,
  target: VersionTarget,
  id: string,
  newId: () => string,
): ProjectDocument {
  const list = versionsIn(project, target);
  const index = list.findIndex((one) => one.id === id);
  const { name, content } = list[index] ?? needVersion(project, target, id);
  const names = list.map((one) => one.name);
  const copy = { id: newId(), name: freshName(names, name), content };
  return withList(project, target, list.toSpliced(index + 1, 0, copy), needOwner(project, target).liveVersion);
}

export function renameVersion(
  project: ProjectDocument,
  target: VersionTarget,
  id: string,
  name: string,
): ProjectDocument {
  needVersion(project, target, id);
  const called = checkedName(name);
  const { liveVersion, versions = [] } = needOwner(project, target);
  return withList(project, target, versions.map((one) => (one.id === id ? { ...one, name: called } : one)), liveVersion); // prettier-ignore
}

/**
 * Removes a version; the last that is left goes with it, for what is worked on needs no name then.
 *
 * @throws EditRefused for the one that is worked on
 */
export function removeVersion(project: ProjectDocument, target: VersionTarget, id: string): ProjectDocument {
  needVersion(project, target, id);
  const { liveVersion, versions = [] } = needOwner(project, target);
  if (id === liveVersion) throw new EditRefused('version', 'Switch to another version before you remove this one.');
  const left = versions.filter((one) => one.id !== id);
  return withList(project, target, left.length === 1 && left[0]!.id === liveVersion ? [] : left, liveVersion);
}

/** A clip with the picture or the sound that a version has. */
function partOf(clip: Clip, then: ClipContent, part: Exclude<VersionPart, 'timing'>): Clip {
  const now = clipContent(clip);
  const [seen, heard] = part === 'picture' ? [then, now] : [now, then];
  const { muted, sound } = heard;
  const { picture, exposures, effects } = seen;
  const { timing, shown } = now;
  return clipWith(clip, {
    ...{ timing, shown },
    ...(muted && { muted }),
    ...(sound && { sound }),
    ...(picture && { picture }),
    ...(exposures && { exposures }),
    ...(effects && { effects }),
  });
}

/** A clip that has the timing of a version. */
function timedAs(project: ProjectDocument, clipId: string, { timing, shown }: ClipContent): ProjectDocument {
  const { clip, place } = needClip(project, clipId);
  const frames = clip.length === 'slot' ? clip.shown.frames : shown.frames;
  return carryUp(project, withStoredTiming(project, clipId, timing, { from: shown.from, frames }), place.containerId);
}

/** Clips that have one part of what versions of them say, by their ids. */
function takeOfClips(
  project: ProjectDocument,
  contents: ReadonlyMap<string, ClipContent>,
  part: VersionPart,
): ProjectDocument {
  if (part === 'timing') return [...contents].reduce((state, [id, content]) => timedAs(state, id, content), project);
  const clips = project.clips.map((clip) => {
    const content = contents.get(clip.id);
    return content ? partOf(clip, content, part) : clip;
  });
  return { ...project, clips };
}

// The film's own settings of a part.
function takeOfFilm(project: ProjectDocument, { sequence: then }: FilmContent, part: VersionPart): ProjectDocument {
  if (part === 'timing') return project;
  const { master, exposures, effects, ...sequence } = project.sequence;
  if (part === 'picture') {
    const { exposures: its, effects: done } = then;
    const taken = { ...(master && { master }), ...(its && { exposures: its }), ...(done && { effects: done }) };
    return { ...project, sequence: { ...sequence, ...taken } };
  }
  const sounds = new Map(then.tracks.map(({ id, sound }) => [id, sound]));
  const tracks = sequence.tracks.map((track) => {
    if (!sounds.has(track.id)) return track;
    const { sound: _sound, ...rest } = track;
    const sound = sounds.get(track.id);
    return sound ? { ...rest, sound } : rest;
  });
  const kept = { ...(exposures && { exposures }), ...(effects && { effects }) };
  return { ...project, sequence: { ...sequence, ...kept, tracks, ...(then.master && { master: then.master }) } };
}

/**
 * Takes one part of what a version says: timing, picture or sound. Of a group or the film, that of every clip that is in both, and the
 * film's own.
 *
 * @throws EditRefused where none of its clips is there any more
 */
export function takePart(
  project: ProjectDocument,
  target: VersionTarget,
  id: string,
  part: VersionPart,
): ProjectDocument {
  const { content } = needVersion(project, target, id);
  if ('clip' in target) {
    needClip(project, target.clip);
    return takeOfClips(project, new Map([[target.clip, content as ClipContent]]), part);
  }
  const { clips } = content as GroupContent | FilmContent;
  const inBoth = clips.filter((clip) => {
    const now = findClip(project, clip.id);
    return now?.of.kind === clip.of.kind && now.of.id === clip.of.id;
  });
  if (inBoth.length === 0) throw new EditRefused('version', 'None of this version’s clips is still here.');
  const taken = takeOfClips(project, new Map(inBoth.map((clip) => [clip.id, clipContent(clip)])), part);
  return 'sequence' in content ? takeOfFilm(taken, content, part) : taken;
}
