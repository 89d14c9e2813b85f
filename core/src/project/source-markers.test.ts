import type { Marker } from '@hastig/contract';
import { rowOf } from '../../test/projects';
import {
  addSourceMarkers,
  findSource,
  makeRate,
  nudgeMarkers,
  positionSeconds,
  removeSourceMarkers,
  replaceSet,
  secondsPosition,
  withReadAs,
} from '..';

const at = (id: string, position: number, set?: string): Marker => ({
  id,
  at: position,
  name: '',
  tone: 'oak',
  ...(set && { set }),
});
const film = rowOf(60);
const shown = (project: typeof film): string =>
  (findSource(project, 's0')!.markers ?? []).map((marker) => `${marker.id}@${marker.at}`).join(' ');

it('are added, changed and taken away, in order, between frames too', () => {
  const two = addSourceMarkers(film, 's0', [at('b', 20.5), at('a', 3)]);
  expect(shown(two)).toBe('a@3 b@20.5');
  expect(shown(addSourceMarkers(two, 's0', [at('a', 30)]))).toBe('b@20.5 a@30');
  expect(shown(removeSourceMarkers(two, 's0', ['a']))).toBe('b@20.5');
  expect(() => addSourceMarkers(film, 's0', [at('a', 61)])).toThrow('within the source');
  expect(() => addSourceMarkers(film, 'none', [])).toThrow('isn’t in the project');
});

it('a set is replaced and the others stay', () => {
  const project = addSourceMarkers(film, 's0', [at('a', 1, 'Beats'), at('b', 2, 'Hits'), at('c', 3)]);
  expect(shown(replaceSet(project, 's0', 'Beats', [at('d', 9, 'Beats')]))).toBe('b@2 c@3 d@9');
  expect(shown(replaceSet(project, 's0', '', []))).toBe('a@1 b@2');
});

it('are nudged together, one set or all; what would leave the source falls away', () => {
  const project = addSourceMarkers(film, 's0', [at('a', 1, 'Beats'), at('b', 30, 'Beats'), at('c', 30)]);
  expect(shown(nudgeMarkers(project, 's0', 'Beats', 0.1))).toBe('a@4 c@30 b@33');
  expect(shown(nudgeMarkers(project, 's0', undefined, -0.1))).toBe('b@27 c@27');
});

it('seconds are those of the file, whatever rate its frames are read at', () => {
  const source = findSource(withReadAs(film, 's0', makeRate(24)), 's0')!;
  expect(positionSeconds(source, 30)).toBe(1);
  expect(secondsPosition(source, 0.5)).toBe(15);
});
