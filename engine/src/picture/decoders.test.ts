import type { SeenLayer } from '@hastig/core';
import { framesByDecoder, decodersOf } from './decoders';

const layer = (sourceId: string, frame: number): SeenLayer => ({ of: { sourceId, frame, clipId: 'c' } });
const decoders = (...layers: SeenLayer[]): string[] =>
  decodersOf(layers).map(({ decoder, seen }) => `${decoder} ${seen.frame}`);

describe('decoders of a picture’s sources', () => {
  it('are one for each place at which a source is passed', () => {
    expect(decoders(layer('a', 3), layer('b', 3))).toEqual(['a 3', 'b 3']);
    expect(decoders(layer('a', 3), layer('b', 1), layer('a', 90), layer('a', 50))).toEqual([
      'a 3',
      'b 1',
      'a#1 90',
      'a#2 50',
    ]);
    // The very same frame twice is decoded once.
    expect(decoders(layer('a', 3), layer('a', 3))).toEqual(['a 3', 'a 3']);
  });

  it('are announced apart, so that each goes one way', () => {
    const pictures = [0, 1, 2].map((n) => decodersOf([layer('a', n), layer('a', 90 - n)]));
    expect([...framesByDecoder(pictures).values()]).toEqual([
      [0, 1, 2],
      [90, 89, 88],
    ]);
  });
});
