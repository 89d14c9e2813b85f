import type { Clip, ClipContent, FilmContent, Group, GroupContent, ProjectDocument, Rate } from '@hastig/contract';
import { HELD_EPSILON } from '../retime';
import { findGroup, lookUp } from '../timeline/lookup';

/** What a version of anything holds. */
export type Content = ClipContent | GroupContent | FilmContent;

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

/** How long a version is, in whole frames of its own rate, and how many clips lie on its tracks; a clip's rate is told by where it lies. */
export function contentExtent(content: Content): { frames: number; clips: number; rate: Rate | undefined } {
  if ('timing' in content) {
    const frames = content.timing.spans.reduce((sum, span) => sum + span.frames, 0);
    return { frames: Math.max(1, Math.ceil(frames - HELD_EPSILON)), clips: 1, rate: undefined };
  }
  const { tracks, rate } = 'sequence' in content ? content.sequence : content;
  const lengths = new Map(content.clips.map(({ id, shown }) => [id, shown.frames]));
  const items = tracks.map((track) => track.items.map((item) => ('gap' in item ? item.gap : (lengths.get(item.clip) ?? 0)))); // prettier-ignore
  const frames = Math.max(0, ...items.map((track) => track.reduce((sum, one) => sum + one, 0)));
  const clips = tracks.reduce((sum, track) => sum + track.items.filter((item) => 'clip' in item).length, 0);
  return { frames, clips, rate };
}
