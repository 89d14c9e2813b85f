import { addSource, constantSpan, makeRate, newProject, withTiming } from '@hastig/core';
import { keepPath, keptPath, noPath } from './kept';
import { pathStart, stepsDoneIn } from './steps';

const facts = { container: 'MP4', mime: 'video/mp4', bytes: 5, audio: null, video: { codec: 'avc', codecString: '', width: 64, height: 36, rotation: 0 as const, rate: makeRate(30), frames: 90, constantRate: true, longestGroup: 1, seconds: 3 } }; // prettier-ignore
const project = addSource(newProject('Path'), { id: 's', name: 'a.mp4', sha256: 'e'.repeat(64), facts }, 'c');
const start = pathStart(project);

it('steps are done by what the project becomes, not by what it was', () => {
  expect(stepsDoneIn(project, start)).toEqual([]);
  const slow = withTiming(project, 'c', { start: 0, spans: [constantSpan(0.5, 180)] });
  expect(stepsDoneIn(slow, start)).toEqual(['slow']);
  expect(stepsDoneIn(slow, pathStart(slow))).toEqual([]);
  // Faster is not slower.
  expect(stepsDoneIn(withTiming(project, 'c', { start: 0, spans: [constantSpan(2, 45)] }), start)).toEqual([]);
  const [clip] = slow.clips;
  const pinned = { ...slow, clips: [{ ...clip!, timing: { ...clip!.timing, pins: [{ output: 2, source: 1 }] } }] };
  expect(stepsDoneIn(pinned as typeof slow, start)).toEqual(['slow', 'land']);
});

it('the path is remembered, and what can’t be read is none', () => {
  expect(keptPath()).toEqual(noPath);
  const path = { project: 'p', start, done: ['slow' as const], open: true, answered: true };
  keepPath(path);
  expect(keptPath()).toEqual(path);
  localStorage.setItem('hastig-path', '{"done":["gone"],');
  expect(keptPath()).toEqual(noPath);
  localStorage.setItem('hastig-path', '{"done":["gone","land"]}');
  expect(keptPath().done).toEqual(['land']);
});
