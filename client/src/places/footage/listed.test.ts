import type { Source } from '@hastig/contract';
import { facts } from '../../../test/project';
import { listed } from './listed';

const source = (name: string, num: number, seconds: number): Source => ({
  id: name,
  name,
  sha256: 'a'.repeat(64),
  facts: { ...facts, video: { ...facts.video, rate: { num, den: 1 }, frames: num * seconds, seconds } },
});
const sources = [source('shot 10.mp4', 24, 3), source('Shot 2.mov', 120, 9), source('drop.mp4', 60, 6)];
const names = (text: string, order: Parameters<typeof listed>[2]) =>
  listed(sources, text, order).map(({ name }) => name);

it('footage is found by words and put in order', () => {
  expect(names('', 'arrival')).toEqual(['shot 10.mp4', 'Shot 2.mov', 'drop.mp4']);
  expect(names('', 'name')).toEqual(['drop.mp4', 'Shot 2.mov', 'shot 10.mp4']);
  expect(names('', 'length')).toEqual(['Shot 2.mov', 'drop.mp4', 'shot 10.mp4']);
  expect(names('', 'rate')[0]).toBe('Shot 2.mov');
  expect(names('SHOT mp4', 'arrival')).toEqual(['shot 10.mp4']);
  expect(names('60 avc', 'arrival')).toEqual(['drop.mp4']);
});
