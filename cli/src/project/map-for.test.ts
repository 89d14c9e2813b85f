import { compile, constantSpan, heldFrame, makeRate, rampSpan } from '@hastig/core';
import { freeNames, stemOf } from '../free-names';
import { mapFor } from './map-for';

const rate = makeRate(24);
const timing = { sourceRate: rate, outputRate: rate, sourceFrames: 144, start: 12, spans: [constantSpan(2, 24)] };

describe('one timing on another clip', () => {
  it('has the frames that it was stored with, counted at the clip’s own rate', () => {
    const map = mapFor({ frames: 300, rate: makeRate(60) }, timing, 'exact');
    expect([map.sourceFrames, map.sourceRate, map.start]).toEqual([300, makeRate(60), 12]);
    // Twice as fast as a clip of 60 a second at 24: five of its frames pass with each.
    expect([0, 1, 2].map((n) => heldFrame(compile(map), n))).toEqual([12, 17, 22]);
  });

  it('or its shape in the clip’s length, from its first frame to its last', () => {
    const shape = { ...timing, spans: [constantSpan(1, 12), rampSpan(1, 3, 12)] };
    const ready = compile(mapFor({ frames: 48, rate }, shape, 'shape'));
    expect(ready.length).toBeCloseTo(48, 9);
    expect([ready.positions[0], ready.ends[ready.count - 1]!].map((at) => Math.round(at! * 1e6) / 1e6)).toEqual([
      0, 48,
    ]);
  });

  it('is refused where it ends where it began: there is no shape to scale', () => {
    const there = { ...timing, spans: [constantSpan(1, 12), constantSpan(-1, 12)] };
    expect(() => mapFor({ frames: 48, rate }, there, 'shape')).toThrow('can’t be scaled');
  });
});

it('files of one name from several folders do not replace each other', () => {
  const free = freeNames();
  expect(['a/drop.mp4', 'b/drop.mov', 'c/bowl', 'd/drop.mp4'].map(stemOf).map(free)).toEqual(['drop', 'drop 2', 'bowl', 'drop 3']); // prettier-ignore
});
