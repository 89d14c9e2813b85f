import type { MediaFacts } from '@hastig/contract';
import {
  addSource,
  fileDifferences,
  putCamera,
  putTrack,
  replaceFile,
  wholeClip,
  withSourceMarkers,
  withSourcePart,
  clipFrames,
  clipMap,
  frameCount,
  makeRate,
  mapLength,
  mapProgram,
  newProject,
  renameProject,
  picturePlan,
  topFrame,
  removeSource,
  sequenceRateFor,
  withSequenceRate,
  withTiming,
} from '..';
import { constantSpan } from '../retime';
import { mapOf, rate } from '../../test/maps';

const facts = (num: number, den: number, frames: number): MediaFacts => ({
  container: 'MP4',
  mime: 'video/mp4',
  bytes: 1,
  video: {
    codec: 'avc',
    codecString: '',
    width: 2,
    height: 2,
    rotation: 0,
    rate: { num, den },
    frames,
    constantRate: true,
    longestGroup: 1,
    seconds: 1,
  },
  audio: null,
});
const add = (project = newProject('Film'), num = 60, den = 1, id = 's') =>
  addSource(project, { id, name: 'roll.final.mp4', sha256: '', facts: facts(num, den, 300) }, `c-${id}`);

describe('a project', () => {
  it.each([
    [24, 1, 24, 1],
    [60, 1, 30, 1],
    [120, 1, 30, 1],
    [60000, 1001, 30000, 1001],
    [50, 1, 25, 1],
    [25, 1, 25, 1],
  ])('of footage at %i/%i runs at %i/%i', (num, den, outNum, outDen) => {
    expect(sequenceRateFor({ num, den })).toEqual({ num: outNum, den: outDen });
  });

  it('takes the first source’s rate and makes a clip of each source, whole and at real time', () => {
    const project = add(add(), 24, 1, 't');
    expect(project.sequence.rate).toEqual({ num: 30, den: 1 });
    expect(project.clips.map(({ name }) => name)).toEqual(['roll.final', 'roll.final']);
    expect(project.clips.map((clip) => clipFrames(project, clip))).toEqual([150, 375]);
  });

  it('keeps speeds and seconds when its rate changes', () => {
    const project = withSequenceRate(add(), makeRate(24));
    const map = clipMap(project, project.clips[0]!)!;
    expect(mapLength(map)).toBeCloseTo(120, 9);
    expect(map.spans[0]!.y[0]).toBe(1);
  });

  it('gives the same map object until something of it changes', () => {
    const project = add();
    const [clip] = [project.clips[0]!];
    expect(clipMap(project, clip)).toBe(clipMap({ ...project }, clip));
    const changed = withTiming(project, clip.id, { start: 0, spans: [constantSpan(2, 75)] });
    expect(frameCount(clipMap(changed, changed.clips[0]!)!)).toBe(75);
    expect(project.clips[0]).toBe(clip);
  });

  it('loses a source together with its clips', () => {
    const project = removeSource(add(add(), 24, 1, 't'), 's');
    expect([project.sources.length, project.clips.map(({ id }) => id)]).toEqual([1, ['c-t']]);
  });
});

describe('a source', () => {
  it('has a part that new clips show, all else being handles', () => {
    const project = withSourcePart(add(newProject('Film')), 's', { from: 60, frames: 120 });
    const source = project.sources[0]!;
    expect(wholeClip(project, 'new', source).shown).toEqual({ from: 30, frames: 60 });
    expect(withSourcePart(project, 's', { from: 0, frames: 300 }).sources[0]!.part).toBeUndefined();
    expect(() => withSourcePart(project, 's', { from: 290, frames: 20 })).toThrow('frames 0 to 299');
  });

  it('gets another file with all timing kept, and what differs is told', () => {
    const marker = (at: number) => ({ id: `m${at}`, at, name: '', tone: 'oak' as const });
    const project = withSourceMarkers(withSourcePart(add(), 's', { from: 60, frames: 200 }), 's', [
      marker(250),
      marker(3),
    ]);
    const after = replaceFile(project, 's', { sha256: 'f', facts: facts(24, 1, 200) });
    expect(after.clips).toBe(project.clips);
    expect(after.sources[0]).toMatchObject({ sha256: 'f', markers: [{ at: 3 }] });
    expect(after.sources[0]!.part).toBeUndefined();
    expect(fileDifferences(facts(60, 1, 300), facts(24, 1, 200))).toEqual([
      'rate was 60 fps, is 24 fps',
      'length was 300 frames, is 200 frames',
    ]);
  });
});

it('a file of another size in its place keeps its tracks, in its own pixels; what was told of the camera is told anew', () => {
  const before = { id: 's', name: 'a.mp4', sha256: '0', facts: facts(24, 1, 100) };
  const box = { x: 10, y: 20, width: 8, height: 6 };
  const track = { id: 'p', name: 'Point', frame: 0, box, at: [14, 23, 1, 16, 25, 0.5] };
  const project = putCamera(putTrack(addSource(newProject('x', makeRate(24)), before, 'c'), 's', track), 's', {
    from: 0,
    moves: Array<number>(9).fill(0),
  });
  const { video } = before.facts;
  const file = { ...before.facts, video: { ...video!, width: video!.width * 2, height: video!.height * 3 } };
  const [after] = replaceFile(project, 's', { sha256: 'f', facts: file }).sources;
  expect(after!.tracks).toEqual([
    { ...track, box: { x: 20, y: 60, width: 16, height: 18 }, at: [28, 69, 1, 32, 75, 0.5] },
  ]);
  expect(after!.cameras).toBeUndefined();
  expect(replaceFile(project, 's', { sha256: 'f', facts: before.facts }).sources[0]!.tracks).toEqual([track]);
});

describe('the picture plan', () => {
  it('at another rate keeps the length in seconds and takes the moments of the new rate', () => {
    const map = mapOf([constantSpan(0.5, 120)], { sourceRate: rate(24), outputRate: rate(24) });
    const plan = picturePlan(mapProgram(map, 's'), makeRate(60));
    expect(plan.count).toBe(300);
    expect([0, 1, 5, 10, 299].map((n) => topFrame(plan.at(n))!.frame)).toEqual([0, 0, 1, 2, 59]);
  });
});

describe('the name of a project', () => {
  it('is kept without space around it', () => {
    expect(renameProject(newProject('Film'), '  The long run ').name).toBe('The long run');
  });

  it.each(['', '   ', 'n'.repeat(201)])('is refused where it is none: %#', (name) => {
    expect(() => renameProject(newProject('Film'), name)).toThrow('A name needs 1 to 200 characters.');
  });
});

it('slow parts of new clips show what the project says, and of clips that are there already nothing else', () => {
  const source = { id: 's', name: 'roll.mp4', sha256: '', facts: facts(120, 1, 300) };
  const plain = addSource(newProject('Film'), source, 'before');
  expect(plain.clips[0]).not.toHaveProperty('exposures');
  const project = addSource(newProject('Film', undefined, 'compensated'), source, 'new');
  expect(project.clips[0]!.exposures).toEqual([{ id: 'slow', slow: 'compensated' }]);
  const changed = { ...plain, defaults: { ...plain.defaults, slow: 'blended' as const } };
  expect(changed.clips[0]).toBe(plain.clips[0]);
  expect(wholeClip(changed, 'next', changed.sources[0]!).exposures).toEqual([{ id: 'slow', slow: 'blended' }]);
  const held = { ...plain, defaults: { ...plain.defaults, slow: 'held' as const } };
  expect(wholeClip(held, 'next', held.sources[0]!)).not.toHaveProperty('exposures');
});
