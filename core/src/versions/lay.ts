import type { Clip, ClipContent, FilmContent, Group, GroupContent, ProjectDocument, Track } from '@hastig/contract';
import { integrityErrors } from '../project/integrity';
import { EditRefused, frameCount } from '../retime';
import { clipMap } from '../timeline/clip-map';
import { withoutUnusedGroups } from '../timeline/edit/arrange';
import { carryUp } from '../timeline/edit/length';
import { needClip, normalizeItems, withClip } from '../timeline/edit/items';
import { findClip, findGroup, findSource, lookUp } from '../timeline/lookup';
import { clipWith } from './content';

/**
 * A clip as a version of it says. What follows moves with its end, or, where its length mode is `slot`, it keeps its place.
 *
 * @throws EditRefused where the clip is not there
 */
export function layClip(project: ProjectDocument, clipId: string, content: ClipContent): ProjectDocument {
  const { clip, place } = needClip(project, clipId);
  const was = clipWith(clip, content);
  const frames = clip.length === 'slot' ? clip.shown.frames : was.shown.frames;
  const map = clipMap(project, was, place.container.rate);
  // What it is made of may have become shorter since.
  const last = map ? Math.max(0, frameCount(map) - 1) : 0;
  const shown = { from: Math.min(was.shown.from, last), frames };
  return carryUp(
    project,
    withClip(project, clipId, () => ({ ...was, shown })),
    place.containerId,
  );
}

/** Rows whose clips are named anew, or gone: a gap as long stays for those. */
function laidTracks(
  tracks: readonly Track[],
  clips: ReadonlyMap<string, Clip>,
  nameOf: (clipId: string) => string | undefined,
): Track[] {
  return tracks.map((track) => ({
    ...track,
    items: normalizeItems(
      track.items.map((item) => {
        if ('gap' in item) return item;
        const name = nameOf(item.clip);
        return name === undefined ? { gap: clips.get(item.clip)?.shown.frames ?? 0 } : { clip: name };
      }),
    ),
  }));
}

/**
 * A project that a version was laid into. Of what versions hold, nobody asked before whether it is whole: it may come from a file.
 *
 * @throws EditRefused where it is not: a group that would come to lie in itself, for one
 */
function sound(project: ProjectDocument): ProjectDocument {
  const [wrong] = integrityErrors(project);
  if (wrong) throw new EditRefused('version', `This version can’t be used: ${wrong.reason}.`);
  return project;
}

const byId = <T extends { id: string }>(list: readonly T[]): ReadonlyMap<string, T> =>
  new Map(list.map((one) => [one.id, one]));

/** What of a version can be laid: clips whose footage is still there, and what they show. */
function layable(project: ProjectDocument, clips: readonly Clip[], groups: ReadonlySet<string>): Clip[] {
  return clips.filter(({ of }) => (of.kind === 'source' ? findSource(project, of.id) : groups.has(of.id)));
}

/**
 * A group as a version of it says. Groups that its clips show are as they are now; those that are gone come back.
 *
 * @param newId for clips whose own id lies elsewhere by now
 * @throws EditRefused where the group is not there, and where what comes of it is not whole
 */
export function layGroup(
  project: ProjectDocument,
  groupId: string,
  content: GroupContent,
  newId: () => string,
): ProjectDocument {
  const group = findGroup(project, groupId);
  if (!group) throw new EditRefused('group', 'This group is no longer in the project.');
  const own = new Set(
    group.tracks.flatMap(({ items }) => items.flatMap((item) => ('clip' in item ? [item.clip] : []))),
  );
  const known = byId(content.clips);
  const back = content.groups.filter(({ id }) => id !== groupId && !findGroup(project, id));
  const held = new Set([...project.groups, ...back].map(({ id }) => id));
  // Those that lie in the group itself, and in the groups that come back; other groups hold what they hold now.
  const rows = [content, ...back].flatMap(({ tracks }) => tracks.flatMap(({ items }) => items));
  const wanted = new Set(rows.flatMap((item) => ('clip' in item ? [item.clip] : [])));
  const laid = layable(project, content.clips, held).filter(({ id }) => wanted.has(id));
  const names = new Map(laid.map(({ id }) => [id, !own.has(id) && findClip(project, id) ? newId() : id] as const));
  const tracksOf = ({ tracks }: Pick<Group, 'tracks'>): Track[] => laidTracks(tracks, known, (id) => names.get(id));
  const clips = laid.map((clip) => ({ ...clip, ...versionsNow(project, clip), id: names.get(clip.id)! }));
  const state: ProjectDocument = {
    ...project,
    groups: [
      ...project.groups.map((one) =>
        one === group ? { ...group, rate: content.rate, markers: content.markers, tracks: tracksOf(content) } : one,
      ),
      ...back.map((one) => ({ ...one, tracks: tracksOf(one) })),
    ],
    clips: [...project.clips.filter(({ id }) => !own.has(id)), ...clips],
  };
  return carryUp(project, sound(withoutUnusedGroups(state)), groupId);
}

/** A clip's or group's own versions are those it has now, not those it had then. */
function versionsNow(project: ProjectDocument, { id }: { id: string }): Pick<Clip, 'liveVersion' | 'versions'> {
  const now = findClip(project, id);
  return now?.versions
    ? { ...(now.liveVersion !== undefined && { liveVersion: now.liveVersion }), versions: now.versions }
    : {};
}

/**
 * The film as a version of it says, its size and rate too.
 *
 * @throws EditRefused where what comes of it is not whole
 */
export function layFilm(project: ProjectDocument, { sequence, clips, groups }: FilmContent): ProjectDocument {
  const known = byId(clips);
  const laid = layable(project, clips, new Set(groups.map(({ id }) => id)));
  const there = new Set(laid.map(({ id }) => id));
  const nameOf = (id: string): string | undefined => (there.has(id) ? id : undefined);
  const now = lookUp(project).groups;
  const state = withoutUnusedGroups({
    ...project,
    sequence: { ...sequence, tracks: laidTracks(sequence.tracks, known, nameOf) },
    clips: laid.map((clip) => ({ ...clip, ...versionsNow(project, clip) })),
    groups: groups.map((group) => {
      const { liveVersion, versions } = now.get(group.id) ?? {};
      return {
        ...group,
        ...(liveVersion !== undefined && { liveVersion }),
        ...(versions && { versions }),
        tracks: laidTracks(group.tracks, known, nameOf),
      };
    }),
  });
  return sound(state);
}
