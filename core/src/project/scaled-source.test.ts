import type { PictureTrack } from '@hastig/contract';
import { rowOf } from '../../test/projects';
import { withScaledSource } from './scaled-source';

/** Something that goes two pixels to the right in each frame, and is in doubt in the last. */
const track: PictureTrack = {
  ...{ id: 't', name: 'Point', frame: 4, box: { x: 0, y: 0, width: 8, height: 8 } },
  at: Array.from({ length: 9 }, (_, n) => [2 * n, 5, n === 8 ? 0.2 : 1]).flat(),
};

it.each([
  [2, 18, 8],
  [0.5, 5, 2],
  [1.25, 11, 5],
  [0.999, 9, 3],
])('tracks go along where there are %d times as many positions', (times, frames, frame) => {
  const project = rowOf(9);
  const source = { ...project.sources[0]!, tracks: [track] };
  const [made] = withScaledSource(project, source, times).sources[0]!.tracks!;
  expect(made).toMatchObject({ id: 't', frame });
  expect(made!.at).toHaveLength(3 * frames);
  for (let position = 0; position < frames; position++) {
    expect(Math.abs(made!.at[3 * position]! - Math.min(16, (2 * position) / times))).toBeLessThan(0.01);
    expect(made!.at[3 * position + 1]).toBe(5);
  }
  expect(withScaledSource(project, source, 1).sources[0]!.tracks).toEqual([track]);
});
