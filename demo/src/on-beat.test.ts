import { checkProjectDocument } from '@hastig/contract';
import { contentMarkers, findClip, integrityErrors, mapOf, markersBeside, pinsOf, sourceShortages } from '@hastig/core';
import { clipFacts, soundFacts } from '../test/facts';
import { beatProject, pathProject, pieces, scenes } from '.';

const media = {
  ...Object.fromEntries(
    scenes.map(({ name, fps, frames }) => [name, { sha256: 'b'.repeat(64), facts: clipFacts(fps, frames) }]),
  ),
  straight: { sha256: 'c'.repeat(64), facts: soundFacts('opus', pieces.straight.seconds) },
  swinging: { sha256: 'd'.repeat(64), facts: soundFacts('opus', pieces.swinging.seconds) },
};
const project = beatProject(media);

it('is a valid document whose clips stay within their sources', () => {
  expect(checkProjectDocument(project)).toMatchObject({ ok: true });
  expect(integrityErrors(project)).toEqual([]);
  for (const clip of project.clips) expect(sourceShortages(mapOf(project, clip))).toEqual([]);
});

it.each(['steps', 'drop'])('marbles of %s strike on beats, to a millionth of a frame', (name) => {
  const clip = findClip(project, `clip-${name}`)!;
  const pins = pinsOf(mapOf(project, clip));
  expect(pins.length).toBeGreaterThan(4);
  const beats = markersBeside(project, clip.id).filter(({ marker }) => marker.set === 'Beats');
  const strikes = contentMarkers(project, clip);
  for (const { output } of pins) {
    expect(Math.min(...beats.map(({ at }) => Math.abs(at - output)))).toBeLessThan(1e-6);
    expect(Math.min(...strikes.map(({ at }) => Math.abs(at - output)))).toBeLessThan(1e-6);
  }
});

it('speeds stay such as one can look at', () => {
  for (const name of ['steps', 'drop']) {
    for (const { y } of mapOf(project, findClip(project, `clip-${name}`)!).spans) {
      for (const speed of y) {
        expect(speed).toBeGreaterThan(0.05);
        expect(speed).toBeLessThan(3);
      }
    }
  }
});

it('the first path begins where nothing is retimed, with beats and strikes marked', () => {
  const path = pathProject(media);
  expect(checkProjectDocument(path)).toMatchObject({ ok: true });
  expect(integrityErrors(path)).toEqual([]);
  for (const { timing } of path.clips) expect(timing.spans.map(({ y }) => [...y])).toEqual([[1, 1, 1, 1]]);
  expect(markersBeside(path, 'clip-steps').some(({ marker }) => marker.set === 'Beats')).toBe(true);
});
