import { constantSpan } from '@hastig/core';
import { proposedPairs, withoutPair, withPairOn } from './pairing';

const map = {
  sourceRate: { num: 120, den: 1 },
  outputRate: { num: 24, den: 1 },
  sourceFrames: 480,
  start: 0,
  spans: [constantSpan(1, 96)],
};
const plain = (...at: number[]) => at.map((one) => ({ at: one, strength: 1 }));

it('proposes what changes the speed least, from where the clip begins to be shown', () => {
  const pairs = proposedPairs(map, { from: 0, frames: 96 }, plain(65, 118, 242), plain(12, 24, 36, 48));
  expect(pairs).toEqual([
    { moment: 0, mark: 0 },
    { moment: 1, mark: 1 },
    { moment: 2, mark: 3 },
  ]);
});

it('a pair that is changed takes its mark from others, and those it would pass lose theirs', () => {
  const pairs = [0, 1, 2].map((i) => ({ moment: i, mark: i }));
  expect(withPairOn(pairs, 1, 2)).toEqual([
    { moment: 0, mark: 0 },
    { moment: 1, mark: 2 },
  ]);
  expect(withPairOn(pairs, 2, 0)).toEqual([{ moment: 2, mark: 0 }]);
  expect(withPairOn(pairs, 2, 5)).toEqual([pairs[0], pairs[1], { moment: 2, mark: 5 }]);
  expect(withoutPair(pairs, 1)).toEqual([pairs[0], pairs[2]]);
});
