import type { Effect, PictureTrack, ProjectDocument, SourceCamera } from '@hastig/contract';
import { withCamera } from '../../steady';

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

/** The tracks an effect needs. */
export function tracksNeeded(effect: Effect): readonly string[] {
  if (effect.kind === 'steady') return effect.tracks;
  if (effect.kind === 'carry') return [effect.track];
  return effect.kind === 'reframe' && effect.follow ? [effect.follow.track] : [];
}

/** The tracks that any effect of any clip needs. */
export const tracksInUse = ({ clips }: ProjectDocument): ReadonlySet<string> =>
  new Set(clips.flatMap(({ effects }) => effects?.flatMap(tracksNeeded) ?? []));

/** The project without those tracks of a source, of some, that no effect needs. */
export function withoutTracks(project: ProjectDocument, sourceId: string, among: readonly string[]): ProjectDocument {
  const used = tracksInUse(project);
  return {
    ...project,
    sources: project.sources.map((source) => {
      if (source.id !== sourceId || !source.tracks) return source;
      const { tracks, ...rest } = source;
      const left = tracks.filter(({ id }) => used.has(id) || !among.includes(id));
      return left.length > 0 ? { ...rest, tracks: left } : rest;
    }),
  };
}

/** Puts what an analysis told of a source's camera to what is known of it. */
export const putCamera = (project: ProjectDocument, sourceId: string, camera: SourceCamera): ProjectDocument => ({
  ...project,
  sources: project.sources.map((source) =>
    source.id === sourceId ? { ...source, cameras: withCamera(source.cameras, camera) } : source,
  ),
});
