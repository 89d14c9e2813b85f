import type { MediaFacts, StoredProject } from '@hastig/contract';
import { addSource, newProject } from '@hastig/core';

/** Facts of a 150-frame clip at 30 fps with sound. */
export const facts: MediaFacts & { video: NonNullable<MediaFacts['video']> } = {
  container: 'MP4',
  mime: 'video/mp4; codecs="avc1.64001f"',
  bytes: 1000,
  video: {
    codec: 'avc',
    codecString: 'avc1.64001f',
    width: 1280,
    height: 720,
    rotation: 0,
    rate: { num: 30, den: 1 },
    frames: 150,
    constantRate: true,
    longestGroup: 30,
    seconds: 5,
  },
  audio: { codec: 'aac', channels: 2, sampleRate: 48_000, seconds: 5 },
};

/** A stored project with one source and the clip `clip`. */
export function storedProject(revision = 1): StoredProject {
  const source = { id: 'source', name: 'roll.mp4', sha256: 'a'.repeat(64), facts };
  const document = addSource(newProject('Film'), source, 'clip');
  return { id: 'project', revision, updatedAt: '2026-01-01T00:00:00.000Z', document };
}
