import { makeRate } from '..';
import { factsOf } from '../../test/projects';
import { proxyReasons } from './proxy-advice';

const video = (more: object) => ({ video: { ...factsOf(makeRate(30), 300).video, ...more } });

it('advises a proxy of what is long, large or in long groups, and says why', () => {
  expect(proxyReasons(video({}))).toEqual([]);
  expect(proxyReasons(video({ width: 1920, height: 1080, longestGroup: 60, seconds: 599 }))).toEqual([]);
  expect(proxyReasons(video({ seconds: 7200, width: 3840, height: 2160, longestGroup: 250 }))).toEqual([
    'it is 120 minutes long',
    'it is 3840 × 2160 pixels',
    'showing one frame means decoding up to 250',
  ]);
});
