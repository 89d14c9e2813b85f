import { checkProjectDocument } from '@hastig/contract';
import { frameCount, integrityErrors, mapOf, positionSeconds, sourceShortages } from '@hastig/core';
import { clipFacts, soundFacts } from '../test/facts';
import { CHIMES_SECONDS, demoProject, extras, scenes, SPOKEN_RATE, SPOKEN_SLOWLY } from '.';

it('is a valid document whose clips stay within their sources', () => {
  const media = Object.fromEntries(
    scenes.map(({ name, fps, frames }) => [name, { sha256: 'b'.repeat(64), facts: clipFacts(fps, frames) }]),
  );
  media.chimes = { sha256: 'c'.repeat(64), facts: soundFacts('pcm-s16', CHIMES_SECONDS) };
  const spoken = soundFacts('pcm-s16', 5.6);
  media.spoken = {
    sha256: 'e'.repeat(64),
    facts: { ...spoken, audio: { ...spoken.audio!, sampleRate: SPOKEN_RATE } },
  };
  const still = { codec: 'png', width: 1280, height: 720, pictures: 1 };
  media.title = { sha256: 'd'.repeat(64), facts: { ...clipFacts(24, 1), video: null, still } };
  const project = demoProject(media);
  expect(checkProjectDocument(project)).toMatchObject({ ok: true });
  expect(integrityErrors(project)).toEqual([]);
  expect(project.clips).toHaveLength(scenes.filter(({ interlaced, held }) => !interlaced && !held).length);
  expect(project.sources).toHaveLength(scenes.length + extras.length);
  const line = project.sources.find(({ name }) => name === 'Spoken line.wav')!;
  expect(positionSeconds(line, line.markers![0]!.at)).toBeCloseTo(SPOKEN_SLOWLY / SPOKEN_RATE, 9);
  for (const clip of project.clips) {
    const map = mapOf(project, clip);
    expect(sourceShortages(map)).toEqual([]);
    expect(frameCount(map)).toBeGreaterThan(60);
  }
  expect(() => demoProject({})).toThrow('missing');
});
