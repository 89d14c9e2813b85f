import fc from 'fast-check';
import { assignmentCost, assignMoments, type AssignOptions, type Pair, type Plain } from './assign';

const options: AssignOptions = { natural: 1, origin: { content: 0, output: 0 }, perSecond: 24 };
const plain = (...at: number[]): Plain[] => at.map((one) => ({ at: one, strength: 1 }));

/** All assignments that keep order, one by one. */
function* everyAssignment(moments: number, marks: number): Generator<Pair[]> {
  yield [];
  for (let moment = 0; moment < moments; moment++) {
    for (let mark = 0; mark < marks; mark++) {
      for (const rest of everyAssignment(moments - moment - 1, marks - mark - 1)) {
        yield [
          { moment, mark },
          ...rest.map((pair) => ({ moment: pair.moment + moment + 1, mark: pair.mark + mark + 1 })),
        ];
      }
    }
  }
}

const anyRow = (most: number): fc.Arbitrary<Plain[]> =>
  fc
    .uniqueArray(
      fc.record({ at: fc.integer({ min: 1, max: 400 }), strength: fc.double({ min: 0, max: 1, noNaN: true }) }),
      {
        maxLength: most,
        selector: ({ at }) => at,
      },
    )
    .map((row) => row.sort((a, b) => a.at - b.at));

it('none costs less, of all there are', () => {
  fc.assert(
    fc.property(anyRow(4), anyRow(5), (moments, marks) => {
      const found = assignmentCost(moments, marks, assignMoments(moments, marks, options), options);
      for (const pairs of everyAssignment(moments.length, marks.length)) {
        expect(found).toBeLessThanOrEqual(assignmentCost(moments, marks, pairs, options) + 1e-9);
      }
    }),
    { numRuns: 150 },
  );
});

/** Each moment on the nearest mark that is still free and later than the last. */
function greedy(moments: readonly Plain[], marks: readonly Plain[]): Pair[] {
  const pairs: Pair[] = [];
  moments.forEach(({ at }, moment) => {
    const free = marks.map((_, mark) => mark).filter((mark) => mark > (pairs.at(-1)?.mark ?? -1));
    const nearest = free.sort((a, b) => Math.abs(marks[a]!.at - at) - Math.abs(marks[b]!.at - at))[0];
    if (nearest !== undefined) pairs.push({ moment, mark: nearest });
  });
  return pairs;
}

it('is never worse than taking the nearest one by one', () => {
  fc.assert(
    fc.property(anyRow(12), anyRow(20), (moments, marks) => {
      const found = assignmentCost(moments, marks, assignMoments(moments, marks, options), options);
      expect(found).toBeLessThanOrEqual(assignmentCost(moments, marks, greedy(moments, marks), options) + 1e-9);
    }),
    { numRuns: 300 },
  );
});

it('moments that lie a little off the beat go on it, each on its own', () => {
  const pairs = assignMoments(plain(13, 23, 37, 47), plain(12, 24, 36, 48), options);
  expect(pairs).toEqual([0, 1, 2, 3].map((i) => ({ moment: i, mark: i })));
});

it('a weak moment between two strong ones is left out rather than hurried onto a mark', () => {
  const moments = [...plain(24), { at: 26, strength: 0.1 }, ...plain(48)];
  expect(assignMoments(moments, plain(24, 48), options)).toEqual([
    { moment: 0, mark: 0 },
    { moment: 2, mark: 1 },
  ]);
});

it('nothing to assign, or nothing to assign to, is nothing', () => {
  expect(assignMoments([], plain(1, 2), options)).toEqual([]);
  expect(assignMoments(plain(1, 2), [], options)).toEqual([]);
});
