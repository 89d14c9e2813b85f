import {
  doubled,
  evenGrid,
  everyNth,
  halfBeatLater,
  nudged,
  spacingOf,
  tappedTempo,
  within,
  withLeastGap,
} from './marks';

const beats = [1, 1.5, 2, 2.5, 3];

it('are made twice as many and half as many, one undoing the other', () => {
  expect(doubled(beats)).toEqual([1, 1.25, 1.5, 1.75, 2, 2.25, 2.5, 2.75, 3]);
  expect(everyNth(doubled(beats), 2)).toEqual(beats);
  expect(everyNth(beats, 2, 1)).toEqual([1.5, 2.5]);
  expect(everyNth(beats, 4)).toEqual([1, 3]);
  expect(doubled([])).toEqual([]);
});

it('go half a beat on, and twice that is a whole one', () => {
  expect(halfBeatLater(beats)).toEqual([1.25, 1.75, 2.25, 2.75, 3.25]);
  expect(halfBeatLater(halfBeatLater(beats)).slice(0, -1)).toEqual(beats.slice(1));
  expect(halfBeatLater([4])).toEqual([4]);
});

it('are nudged, kept in a range, and thinned', () => {
  expect(nudged([0.004, 1], -0.01)).toEqual([0.99]);
  expect(within(beats, { from: 1.5, to: 2.5 })).toEqual([1.5, 2]);
  expect(withLeastGap([1, 1.1, 1.3, 1.4, 2], 0.3)).toEqual([1, 1.3, 2]);
  expect(withLeastGap(beats, 0)).toEqual(beats);
});

it('an even grid reaches to both sides of the beat that is known', () => {
  expect(evenGrid(120, 1.25, 3).map((at) => Number(at.toFixed(9)))).toEqual([0.25, 0.75, 1.25, 1.75, 2.25, 2.75]);
  expect(evenGrid(60, 0, 3)).toEqual([0, 1, 2]);
  expect(evenGrid(120, 0.2, 0.1)).toEqual([]);
  // 29.97 frames a second and 127.9 beats a minute: no beat drifts, however long the music.
  const long = evenGrid(127.9, 0.5, 10_800);
  expect(long.at(-1)! - long[0]!).toBeCloseTo(((long.length - 1) * 60) / 127.9, 6);
});

it('their spacing is that of most of them', () => {
  expect(spacingOf([0, 0.47, 0.94, 1.4, 1.87, 3])).toEqual({
    count: 6,
    typical: expect.closeTo(0.47, 9) as number,
    spread: expect.closeTo(0, 9) as number,
  });
  expect(spacingOf([1])).toBeUndefined();
});

it('taps have a tempo, also where one was missed or all tremble a little', () => {
  expect(tappedTempo([0, 0.5, 1, 1.5])).toBeCloseTo(120, 9);
  expect(tappedTempo([0, 0.5, 1.5, 2, 2.5])).toBeCloseTo(120, 9);
  const trembling = Array.from({ length: 16 }, (_, i) => 2 + i * (60 / 97) + 0.012 * Math.sin(i * 2.3));
  expect(tappedTempo(trembling)!).toBeGreaterThan(96.5);
  expect(tappedTempo(trembling)!).toBeLessThan(97.5);
  expect(tappedTempo([1])).toBeUndefined();
  expect(tappedTempo([1, 1])).toBeUndefined();
});
