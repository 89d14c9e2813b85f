import type { SeenLayer } from '@hastig/core';
import { framesByLane, lanesOf } from './lanes';

const layer = (sourceId: string, frame: number): SeenLayer => ({ of: { sourceId, frame, clipId: 'c' } });
const lanes = (...layers: SeenLayer[]): string[] => lanesOf(layers).map(({ lane, seen }) => `${lane} ${seen.frame}`);

describe('lanes of a picture’s sources', () => {
  it('are one for each place at which a source is passed', () => {
    expect(lanes(layer('a', 3), layer('b', 3))).toEqual(['a 3', 'b 3']);
    expect(lanes(layer('a', 3), layer('b', 1), layer('a', 90), layer('a', 50))).toEqual([
      'a 3',
      'b 1',
      'a#1 90',
      'a#2 50',
    ]);
    // The very same frame twice is decoded once.
    expect(lanes(layer('a', 3), layer('a', 3))).toEqual(['a 3', 'a 3']);
  });

  it('are announced apart, so that each goes one way', () => {
    const pictures = [0, 1, 2].map((n) => lanesOf([layer('a', n), layer('a', 90 - n)]));
    expect([...framesByLane(pictures).values()]).toEqual([
      [0, 1, 2],
      [90, 89, 88],
    ]);
  });
});
