import { checkProjectDocument, type MediaFacts } from '@hastig/contract';
import { frameCount, integrityErrors, mapOf, sourceShortages } from '@hastig/core';
import { CHIMES_SECONDS, demoProject, extras, scenes } from '.';

const facts = (fps: number, frames: number): MediaFacts => ({
  container: 'MP4',
  mime: 'video/mp4',
  bytes: 1,
  video: {
    codec: 'avc',
    codecString: 'avc1',
    width: 1280,
    height: 720,
    rotation: 0,
    rate: { num: fps, den: 1 },
    frames,
    constantRate: true,
    longestGroup: 30,
    seconds: frames / fps,
  },
  audio: null,
});

it('is a valid document whose clips stay within their sources', () => {
  const media = Object.fromEntries(
    scenes.map(({ name, fps, frames }) => [name, { sha256: 'b'.repeat(64), facts: facts(fps, frames) }]),
  );
  const sound = { codec: 'pcm-s16', channels: 2, sampleRate: 48_000, seconds: CHIMES_SECONDS };
  media.chimes = { sha256: 'c'.repeat(64), facts: { ...facts(24, 1), video: null, audio: sound } };
  const still = { codec: 'png', width: 1280, height: 720, pictures: 1 };
  media.title = { sha256: 'd'.repeat(64), facts: { ...facts(24, 1), video: null, still } };
  const project = demoProject(media);
  expect(checkProjectDocument(project)).toMatchObject({ ok: true });
  expect(integrityErrors(project)).toEqual([]);
  expect(project.clips).toHaveLength(scenes.filter(({ interlaced }) => !interlaced).length);
  expect(project.sources).toHaveLength(scenes.length + extras.length);
  for (const clip of project.clips) {
    const map = mapOf(project, clip);
    expect(sourceShortages(map)).toEqual([]);
    expect(frameCount(map)).toBeGreaterThan(60);
  }
  expect(() => demoProject({})).toThrow('missing');
});
