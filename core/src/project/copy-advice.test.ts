import { makeRate } from '..';
import { factsOf } from '../../test/projects';
import { copyReasons } from './copy-advice';

const video = (more: object) => ({ video: { ...factsOf(makeRate(30), 300).video, ...more } });

it('advises a scrubbing copy of what is long, large or in long groups, and says why', () => {
  expect(copyReasons(video({}))).toEqual([]);
  expect(copyReasons(video({ width: 1920, height: 1080, longestGroup: 60, seconds: 599 }))).toEqual([]);
  expect(copyReasons(video({ seconds: 7200, width: 3840, height: 2160, longestGroup: 250 }))).toEqual([
    'it lasts 120 minutes',
    'its picture has 3840 × 2160 pixels',
    'up to 250 frames must be decoded to see one',
  ]);
});
