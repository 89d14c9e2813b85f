import type { PictureTrack, ProjectDocument } from '@hastig/contract';

/** Puts a track of a source in the place of the one with its id, or after all others. */
export function putTrack(project: ProjectDocument, sourceId: string, track: PictureTrack): ProjectDocument {
  return {
    ...project,
    sources: project.sources.map((source) => {
      if (source.id !== sourceId) return source;
      const before = source.tracks ?? [];
      const known = before.some(({ id }) => id === track.id);
      return {
        ...source,
        tracks: known ? before.map((one) => (one.id === track.id ? track : one)) : [...before, track],
      };
    }),
  };
}

/** The project without tracks of a source that no clip is steadied by. */
export function withoutUnusedTracks(project: ProjectDocument, sourceId: string): ProjectDocument {
  const used = new Set(
    project.clips.flatMap(({ effects }) => effects?.flatMap((one) => (one.kind === 'steady' ? one.tracks : [])) ?? []),
  );
  return {
    ...project,
    sources: project.sources.map((source) => {
      if (source.id !== sourceId || !source.tracks) return source;
      const { tracks, ...rest } = source;
      const left = tracks.filter(({ id }) => used.has(id));
      return left.length > 0 ? { ...rest, tracks: left } : rest;
    }),
  };
}
