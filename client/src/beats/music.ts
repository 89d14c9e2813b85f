import type { Clip, Marker, ProjectDocument, Source } from '@hastig/contract';
import {
  addSourceMarkers,
  findContainer,
  findSource,
  layoutOf,
  mapOf,
  positionAt,
  positionSeconds,
  secondsPosition,
  sourceFrames,
  soundOf,
  timesAt,
} from '@hastig/core';
import type { Footage } from './made-sheet';

/** A clip whose sound is listened to, and where it lies. */
export interface MusicClip {
  clip: Clip;
  source: Source;
  /** First frame on the timeline, and the first one after it. */
  from: number;
  to: number;
}

/** The clips that can be listened to: those of sound alone first, then those whose picture has sound. */
export function musicClips(project: ProjectDocument, containerId: string): MusicClip[] {
  const tracks = findContainer(project, containerId)?.tracks ?? [];
  const found = tracks.flatMap((track) =>
    layoutOf(project, track).flatMap(({ clip, from, to }): MusicClip[] => {
      const source = clip?.of.kind === 'source' ? findSource(project, clip.of.id) : undefined;
      return clip && source && soundOf(source) ? [{ clip, source, from, to }] : [];
    }),
  );
  const alone = ({ source }: MusicClip): boolean => !source.facts.video;
  return [...found.filter(alone), ...found.filter((one) => !alone(one))];
}

/** The one that is worked with: a chosen one, or else the first. */
export function chosenMusic(
  project: ProjectDocument,
  containerId: string,
  selectedClips: readonly string[],
): MusicClip | undefined {
  const clips = musicClips(project, containerId);
  return clips.find(({ clip }) => selectedClips.includes(clip.id)) ?? clips[0];
}

/** Seconds of the source's content that are heard at a frame (real) of the timeline. */
export function contentSeconds(project: ProjectDocument, { clip, source, from }: MusicClip, frame: number): number {
  return positionSeconds(source, positionAt(mapOf(project, clip), frame - from + clip.shown.from));
}

/** The frame (real) of the timeline at which so many seconds of the content are first heard; undefined where they are not. */
export function frameOfContent(
  project: ProjectDocument,
  { clip, source, from, to }: MusicClip,
  seconds: number,
): number | undefined {
  const frames = timesAt(mapOf(project, clip), secondsPosition(source, seconds)).map(
    ({ from: at }) => at - clip.shown.from + from,
  );
  return frames.find((frame) => frame >= from - 1e-9 && frame < to);
}

/** The project with a marker of the music at another frame (real) of the timeline, within what is heard of it. */
export function movedTo(project: ProjectDocument, music: MusicClip, marker: Marker, frame: number): ProjectDocument {
  const { clip, source, from, to } = music;
  const inside = Math.min(Math.max(from, frame), to - 1e-6);
  const at = positionAt(mapOf(project, clip), inside - from + clip.shown.from);
  return addSourceMarkers(project, source.id, [{ ...marker, at: Math.min(sourceFrames(source), Math.max(0, at)) }]);
}

/** The music's source, and the seconds of it that are heard at a frame (real) of the timeline. */
export function footageOf(project: ProjectDocument, music: MusicClip): Footage {
  return { source: music.source, secondsAt: (frame) => contentSeconds(project, music, frame) };
}
