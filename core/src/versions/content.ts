import type { Clip, ClipContent, FilmContent, Group, GroupContent, ProjectDocument } from '@hastig/contract';
import { findGroup, lookUp } from '../timeline/lookup';

/** The clips that lie on some tracks. */
const clipsOn = (project: ProjectDocument, { tracks }: Pick<Group, 'tracks'>): Clip[] =>
  tracks.flatMap(({ items }) =>
    items.flatMap((item) => ('clip' in item ? (lookUp(project).clips.get(item.clip) ?? []) : [])),
  );

/** What a clip's versions differ in, of a clip. */
export function clipContent({ timing, shown, muted, picture, sound, exposures, effects }: Clip): ClipContent {
  return {
    ...{ timing, shown },
    ...(muted && { muted }),
    ...(picture && { picture }),
    ...(sound && { sound }),
    ...(exposures && { exposures }),
    ...(effects && { effects }),
  };
}

/** A clip as a version of it says. */
export function clipWith(clip: Clip, content: ClipContent): Clip {
  const { timing: _1, shown: _2, muted: _3, picture: _4, sound: _5, exposures: _6, effects: _7, ...rest } = clip;
  return { ...rest, ...content };
}

/** What lies in a group: its rows, its clips, and the groups those show, at any depth. */
export function groupContent(project: ProjectDocument, group: Group): GroupContent {
  const { rate, tracks, markers } = group;
  const clips = clipsOn(project, group);
  const groups = new Map<string, Group>();
  // The list grows while it is walked through.
  for (const { of } of clips) {
    const inner = of.kind === 'group' && !groups.has(of.id) ? findGroup(project, of.id) : undefined;
    if (!inner) continue;
    groups.set(inner.id, inner);
    clips.push(...clipsOn(project, inner));
  }
  const bare = [...groups.values()].map(({ liveVersion: _live, versions: _versions, ...rest }) => rest);
  return { rate, tracks, markers, clips, groups: bare };
}

export const filmContent = ({ sequence, clips, groups }: ProjectDocument): FilmContent => ({ sequence, clips, groups });
