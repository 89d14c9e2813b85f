import { MOST, type ProjectDocument } from '@hastig/contract';
import { mostPlayed, playedClips } from '../timeline/held-groups';
import { containersOf } from '../timeline/lookup';

const words: Record<keyof typeof MOST, string> = {
  sources: 'sources',
  groups: 'groups',
  clips: 'clips',
  tracks: 'tracks',
  items: 'clips and gaps on one track',
  markers: 'markers in one place',
  versions: 'versions of one thing',
};

/**
 * What a project has too much of to be kept, in words; undefined where there is room for all of it.
 */
export function tooMuch(project: ProjectDocument): string | undefined {
  const over = (kind: keyof typeof MOST, count: number): string | undefined =>
    count > MOST[kind] ? `A project can have ${MOST[kind]} ${words[kind]}. This would make ${count}.` : undefined;
  const { sources, groups, clips } = project;
  if (playedClips(project) > mostPlayed(project))
    return `A project can play ${mostPlayed(project)} clips, those in groups counted each time. This would make ${playedClips(project)}.`;
  for (const found of [over('sources', sources.length), over('groups', groups.length), over('clips', clips.length)]) {
    if (found) return found;
  }
  for (const [, { tracks, markers }] of containersOf(project)) {
    const found = over('tracks', tracks.length) ?? over('markers', markers.length);
    const full = found ?? tracks.map(({ items }) => over('items', items.length)).find(Boolean);
    if (full) return full;
  }
  const found = sources.map(({ markers = [] }) => over('markers', markers.length)).find(Boolean);
  const versioned = [project, ...groups, ...clips];
  return found ?? versioned.map(({ versions = [] }) => over('versions', versions.length)).find(Boolean);
}
