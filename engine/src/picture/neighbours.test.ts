import { neighboursOf } from './neighbours';

/** A source that shows these pictures, one a frame. */
const showing = (pictures: string) => ({ frames: pictures.length, times: undefined });
const looks = (pictures: string) => (frame: number) => Promise.resolve(pictures[frame] === pictures[frame - 1]);

/** Between which pictures a position lies, and how far from the first. */
async function between(pictures: string, position: number): Promise<string> {
  const frame = Math.floor(position);
  const { first, second, share } = await neighboursOf(showing(pictures), frame, position - frame, looks(pictures));
  return share === 0 ? pictures[first]! : `${pictures[first]}${pictures[second]} ${share.toFixed(3)}`;
}

const all = (pictures: string, positions: readonly number[]): Promise<string[]> =>
  Promise.all(positions.map((position) => between(pictures, position)));

it('a picture lies between the frame it is after and the next', async () => {
  expect(await all('ABCD', [0, 0.25, 1, 2.75, 3])).toEqual(['A', 'AB 0.250', 'B', 'CD 0.750', 'D']);
});

it('a repeated frame is no neighbour of itself: 24 frames a second in a file of 30, 12 in 24, 8 in 24', async () => {
  expect(await all('ABCDDEFGHHI', [2.5, 3, 3.5, 4, 4.5, 5, 9])).toEqual([
    'CD 0.500',
    'D',
    'DE 0.250',
    'DE 0.500',
    'DE 0.750',
    'E',
    'HI 0.500',
  ]);
  expect(await all('AABBCC', [0, 0.5, 1, 2, 3.5])).toEqual(['A', 'AB 0.250', 'AB 0.500', 'B', 'BC 0.750']);
  expect(await all('AAABBB', [1, 2, 2.5])).toEqual(['AB 0.333', 'AB 0.667', 'AB 0.833']);
});

it('what stands still for long gives way in its last position', async () => {
  const still = `${'A'.repeat(12)}BC`;
  expect(await all(still, [3, 11, 11.5, 12])).toEqual(['A', 'A', 'AB 0.500', 'B']);
  // To the end of the source too.
  expect(await all('ABBB', [1, 2.5, 3])).toEqual(['B', 'BB 0.500', 'B']);
});

describe('frames that come at irregular times', () => {
  /** A file's frames by their times in positions, shown at each from the time on at which they come. */
  const timed = (times: readonly number[], frames: number) => {
    const frameAt = (position: number): number => times.filter((time) => time <= position + 1e-9).length - 1;
    return { frames, times: { frameAt, placeAt: (position: number) => times[frameAt(position)]! } };
  };
  const told = async (times: readonly number[], position: number): Promise<[number, number, number]> => {
    const source = timed(times, 10);
    const frame = Math.floor(position);
    const { first, second, share } = await neighboursOf(source, frame, position - frame);
    const { frameAt } = source.times;
    return [frameAt(first), share === 0 ? frameAt(first) : frameAt(second), Math.round(share * 1000) / 1000];
  };

  it('are never neighbours of themselves where one is missing', async () => {
    const times = [0, 1, 2, 4, 5, 6, 7, 8, 9];
    expect(await told(times, 2.5)).toEqual([2, 3, 0.25]);
    expect(await told(times, 3)).toEqual([2, 3, 0.5]);
    expect(await told(times, 3.5)).toEqual([2, 3, 0.75]);
    expect(await told(times, 4)).toEqual([3, 3, 0]);
  });

  it('share by their own times, which lie between positions', async () => {
    const times = [0, 1.4, 2.6, 3.8, 5, 6, 7, 8, 9];
    // At position 2 the second frame has stood for 0.6 of 1.2.
    expect(await told(times, 2)).toEqual([1, 2, 0.5]);
    expect(await told(times, 1)).toEqual([0, 1, 0.714]);
    // The third has come before the next position.
    expect(await told(times, 2.9)).toEqual([2, 3, 0.25]);
  });
});
