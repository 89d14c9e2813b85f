import type { Clip, MediaFacts, ProjectDocument, Rate, Span } from '@hastig/contract';
import {
  addSource,
  constantSpan,
  groupClips,
  integrityErrors,
  makeRate,
  mapOf,
  newProject,
  programOf,
  seenAt,
  SEQUENCE,
  withTiming,
} from '../src';

/** Facts of a file with a moving picture. */
export type VideoFacts = MediaFacts & { video: NonNullable<MediaFacts['video']> };

/** Facts of a silent source of so many frames. */
export const factsOf = (rate: Rate, frames: number): VideoFacts => ({
  container: 'MP4',
  mime: 'video/mp4',
  bytes: 1,
  video: {
    codec: 'avc',
    codecString: '',
    width: 64,
    height: 36,
    rotation: 0,
    rate,
    frames,
    constantRate: true,
    longestGroup: 1,
    seconds: (frames * rate.den) / rate.num,
  },
  audio: null,
});

/** Facts of sound alone. */
export const soundFactsOf = (sampleRate: number, seconds: number): MediaFacts => ({
  ...factsOf(makeRate(30), 1),
  container: 'WAVE',
  mime: 'audio/wav',
  video: null,
  audio: { codec: 'pcm-s16', channels: 2, sampleRate, seconds },
});

/** Facts of a still, or of numbered ones. */
export const stillFactsOf = (pictures?: number): MediaFacts => ({
  ...factsOf(makeRate(30), 1),
  container: 'PNG',
  mime: 'image/png',
  video: null,
  still: { codec: 'png', width: 120, height: 90, pictures: pictures ?? 1, ...(pictures && { first: 1 }) },
});

/** A project at 30 with a source and a whole clip for each length: sources `s0`, `s1` …, clips `c0`, `c1` …. */
export function rowOf(...lengths: number[]): ProjectDocument {
  return lengths.reduce(
    (project, frames, index) =>
      addSource(
        project,
        { id: `s${index}`, name: `shot ${index}.mp4`, sha256: '0'.repeat(64), facts: factsOf(makeRate(30), frames) },
        `c${index}`,
      ),
    newProject('Row', makeRate(30)),
  );
}

/** The same, its sources with sound. */
export const withSound = (project: ProjectDocument): ProjectDocument => ({
  ...project,
  sources: project.sources.map((source) => ({
    ...source,
    facts: { ...source.facts, audio: { codec: 'aac', channels: 2, sampleRate: 48_000, seconds: 10 } },
  })),
});

export const clipOf = (project: ProjectDocument, id: string): Clip => project.clips.find((clip) => clip.id === id)!;

/** A clip with other spans, its source start as it was. */
export const paced = (project: ProjectDocument, id: string, ...spans: Span[]): ProjectDocument =>
  withTiming(project, id, { ...mapOf(project, clipOf(project, id)), spans });

export const atSpeed = (project: ProjectDocument, id: string, speed: number): ProjectDocument =>
  paced(project, id, constantSpan(speed, clipOf(project, id).shown.frames / speed));

/** What is seen at some frames: `s1:20` is frame 20 of source s1, `–` nothing. */
export function seen(project: ProjectDocument, ...frames: number[]): string[] {
  const program = programOf(project, SEQUENCE);
  return frames.map((frame) => {
    const at = seenAt(program, frame);
    return at ? `${at.sourceId}:${at.frame}` : '–';
  });
}

/** The first track as text: clips by id and length, gaps as numbers in brackets. */
export function row(
  project: ProjectDocument,
  track = 0,
  container = project.sequence as ProjectDocument['groups'][0] | ProjectDocument['sequence'],
): string {
  return container.tracks[track]!.items.map((item) =>
    'gap' in item ? `(${item.gap})` : `${item.clip}/${clipOf(project, item.clip).shown.frames}`,
  ).join(' ');
}

/** Fails unless a project is whole. */
export const sound = (project: ProjectDocument): void => expect(integrityErrors(project)).toEqual([]);

let made = 0;
/** An id that is new in this file of tests. */
export const newId = (): string => `n${made++}`;

/** Groups clips as `name`, in a clip `c-name`. */
export const group = (project: ProjectDocument, ids: string[], name = 'g'): ProjectDocument =>
  groupClips(project, ids, { groupId: name, clipId: `c-${name}`, name });
