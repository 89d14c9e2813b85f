import type { ProjectDocument } from '@hastig/contract';
import { clipOf, rowOf, seen } from '../../test/projects';
import {
  constantSpan,
  linearPositionSpan,
  mapLength,
  mapOf,
  positionAt,
  replaceFile,
  sourceFrames,
  sourceRate,
  speedAt,
  withFields,
  withReadAs,
  withSourceMarkers,
  withSourcePart,
  withTiming,
} from '..';

const both = { use: 'both', first: 'top' } as const;

// A clip with speeds, a jump, a part by position and a pin, and a source with a part and a marker.
function project(): ProjectDocument {
  const row = rowOf(100, 30);
  const timed = withTiming(row, 'c0', {
    start: 10,
    spans: [
      constantSpan(0.5, 20),
      { ...constantSpan(-1, 10), jump: 30 },
      { ...linearPositionSpan(8, 12), jump: -5 },
      constantSpan(2, 10),
    ],
    pins: [{ output: 20, source: 50 }],
  });
  const marked = withSourceMarkers(timed, 's0', [{ id: 'm', at: 33, name: '', tone: 'oak' }]);
  return withSourcePart(marked, 's0', { from: 5, frames: 40 });
}

describe('both fields as frames', () => {
  it('gives twice the frames at twice the rate; every clip shows the same moments at the same speeds', () => {
    const before = project();
    const after = withFields(before, 's0', both);
    const [source] = after.sources;
    expect([sourceFrames(source!), sourceRate(source!)]).toEqual([200, { num: 60, den: 1 }]);
    const [was, is] = [before, after].map((one) => mapOf(one, clipOf(one, 'c0')));
    expect(mapLength(is!)).toBe(mapLength(was!));
    for (let t = 0; t < mapLength(was!); t += 0.37) {
      expect(positionAt(is!, t)).toBeCloseTo(2 * positionAt(was!, t), 9);
      expect(speedAt(is!, t)).toBeCloseTo(speedAt(was!, t), 12);
    }
    expect(is!.pins).toEqual([{ output: 20, source: 100 }]);
    expect(source!.part).toEqual({ from: 10, frames: 80 });
    expect(source!.markers![0]!.at).toBe(66);
    // Clips of other sources are the very same.
    expect(clipOf(after, 'c1')).toBe(clipOf(before, 'c1'));
  });

  it('has a moment of its own for each frame of a part at half speed', () => {
    const slow = withTiming(rowOf(20), 'c0', { start: 0, spans: [constantSpan(0.5, 40)] });
    expect(seen(slow, 0, 1, 2, 3)).toEqual(['s0:0', 's0:0', 's0:1', 's0:1']);
    expect(seen(withFields(slow, 's0', both), 0, 1, 2, 3)).toEqual(['s0:0', 's0:1', 's0:2', 's0:3']);
  });

  it('is taken back without a trace, and keeps to the rate the frames are read at', () => {
    const before = project();
    expect(withFields(withFields(before, 's0', both), 's0', undefined)).toEqual(before);
    const read = withFields(withReadAs(rowOf(20), 's0', { num: 24, den: 1 }), 's0', both);
    expect(sourceRate(read.sources[0]!)).toEqual({ num: 48, den: 1 });
  });
});

it('the order of the fields changes no timing', () => {
  const before = withFields(project(), 's0', both);
  const after = withFields(before, 's0', { use: 'both', first: 'bottom' });
  expect(after.sources[0]!.fields).toEqual({ use: 'both', first: 'bottom' });
  expect(after.clips).toBe(before.clips);
});

it('another file behind a source is counted as the old one was', () => {
  const before = withFields(project(), 's0', both);
  const { facts } = before.sources[0]!;
  const file = {
    sha256: '1'.repeat(64),
    facts: { ...facts, video: { ...facts.video!, scan: 'progressive' as const } },
  };
  const [source] = replaceFile(before, 's0', file).sources;
  expect(sourceFrames(source!)).toBe(200);
  expect(source!.part).toEqual({ from: 10, frames: 80 });
});
