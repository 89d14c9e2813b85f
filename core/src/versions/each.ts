import type { Clip, Group, ProjectDocument } from '@hastig/contract';
import { clipContent, clipWith } from './content';

/** A clip whose versions are changed as the clip would be, were it like them. */
export function withVersions(clip: Clip, change: (clip: Clip) => Clip): Clip {
  const { versions, liveVersion: _live, ...bare } = clip;
  if (!versions) return clip;
  const changed = versions.map((version) => ({
    ...version,
    content: clipContent(change(clipWith(bare, version.content))),
  }));
  return { ...clip, versions: changed };
}

/** A project whose clips are changed, those in versions of groups and of the film too. */
export function withEachClip(project: ProjectDocument, change: (clip: Clip) => Clip): ProjectDocument {
  const inside = <C extends { clips: Clip[] }, V extends { content: C }>(versions: readonly V[]): V[] =>
    versions.map((version) => ({
      ...version,
      content: { ...version.content, clips: version.content.clips.map(change) },
    }));
  const inGroups = (groups: readonly Group[]): Group[] =>
    groups.map((group) => (group.versions ? { ...group, versions: inside(group.versions) } : group));
  const films = project.versions?.map((version) => {
    const { sequence, clips, groups } = version.content;
    return { ...version, content: { sequence, clips: clips.map(change), groups: inGroups(groups) } };
  });
  return {
    ...project,
    clips: project.clips.map(change),
    groups: inGroups(project.groups),
    ...(films && { versions: films }),
  };
}
