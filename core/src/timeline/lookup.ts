import type { Clip, Container, Group, ProjectDocument, Source, Track } from '@hastig/contract';

/** Names the sequence where a container is asked for; groups are named by their ids, which never begin with a colon. */
export const SEQUENCE = ':sequence';

/** Where a clip lies: its container, track and place on the track, and the frame at which it begins. */
export interface ClipPlace {
  containerId: string;
  container: Container;
  track: Track;
  trackIndex: number;
  itemIndex: number;
  /** First frame on the track, and the first one after it. */
  from: number;
  to: number;
}

/** A project's parts by their ids. */
interface ProjectLookup {
  clips: ReadonlyMap<string, Clip>;
  sources: ReadonlyMap<string, Source>;
  groups: ReadonlyMap<string, Group>;
  places: ReadonlyMap<string, ClipPlace>;
}

const lookups = new WeakMap<ProjectDocument, ProjectLookup>();
const named = new WeakMap<readonly { id: string }[], ReadonlyMap<string, unknown>>();

/** Things by their ids; made once for each list (lists are never changed in place), and so shared by projects that share it. */
function byId<T extends { id: string }>(list: readonly T[]): ReadonlyMap<string, T> {
  let found = named.get(list) as ReadonlyMap<string, T> | undefined;
  if (!found) {
    found = new Map(list.map((one) => [one.id, one]));
    named.set(list, found);
  }
  return found;
}

/** A project's parts by their ids; made once for each project object (projects are never changed in place). */
export function lookUp(project: ProjectDocument): ProjectLookup {
  let found = lookups.get(project);
  if (!found) {
    const clips = byId(project.clips);
    const places = new Map<string, ClipPlace>();
    for (const [containerId, container] of containersOf(project)) placesIn(containerId, container, clips, places);
    found = {
      clips,
      places,
      sources: byId(project.sources),
      groups: byId(project.groups),
    };
    lookups.set(project, found);
  }
  return found;
}

/** The sequence and all groups, each with the name it is found by. */
export function containersOf(project: ProjectDocument): [id: string, Container][] {
  return [[SEQUENCE, project.sequence], ...project.groups.map((group): [string, Container] => [group.id, group])];
}

function placesIn(
  containerId: string,
  container: Container,
  clips: ReadonlyMap<string, Clip>,
  places: Map<string, ClipPlace>,
): void {
  container.tracks.forEach((track, trackIndex) => {
    let from = 0;
    track.items.forEach((item, itemIndex) => {
      const to = from + ('gap' in item ? item.gap : (clips.get(item.clip)?.shown.frames ?? 0));
      if ('clip' in item) places.set(item.clip, { containerId, container, track, trackIndex, itemIndex, from, to });
      from = to;
    });
  });
}

export function findClip(project: ProjectDocument, clipId: string): Clip | undefined {
  return lookUp(project).clips.get(clipId);
}

export function findSource(project: ProjectDocument, sourceId: string): Source | undefined {
  return lookUp(project).sources.get(sourceId);
}

export function findGroup(project: ProjectDocument, groupId: string): Group | undefined {
  return lookUp(project).groups.get(groupId);
}

export function findContainer(project: ProjectDocument, containerId: string): Container | undefined {
  return containerId === SEQUENCE ? project.sequence : findGroup(project, containerId);
}

/** Where a clip lies; undefined for a clip that is not there. */
export function placeOf(project: ProjectDocument, clipId: string): ClipPlace | undefined {
  return lookUp(project).places.get(clipId);
}

/** The project with another state of a container. */
export function withContainer(
  project: ProjectDocument,
  containerId: string,
  change: (container: Container) => Container,
): ProjectDocument {
  if (containerId === SEQUENCE) {
    return { ...project, sequence: { ...project.sequence, ...change(project.sequence) } };
  }
  return {
    ...project,
    groups: project.groups.map((group) => (group.id === containerId ? { ...group, ...change(group) } : group)),
  };
}
