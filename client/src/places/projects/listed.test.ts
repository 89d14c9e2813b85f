import type { ProjectSummary } from '@hastig/contract';
import { lengthWords, listedProjects } from './listed';

const project = (name: string, more: Partial<ProjectSummary> = {}): ProjectSummary => ({
  ...{ id: name, name, revision: 1, updatedAt: '2026-01-01', sources: 1, clips: 1 },
  ...{ seconds: 1, bytes: 1, missing: 0, picture: null },
  ...more,
});
const all = [
  project('Take 10', { updatedAt: '2026-03-01', seconds: 5, bytes: 300 }),
  project('take 2', { updatedAt: '2026-02-01', seconds: 90, bytes: 100 }),
  project('Marble film', { updatedAt: '2026-01-01', seconds: 20, bytes: 200 }),
];
const names = (list: readonly ProjectSummary[]): string[] => list.map(({ name }) => name);

it('projects are sorted, numbers in names as numbers', () => {
  expect(names(listedProjects(all, '', 'changed'))).toEqual(['Take 10', 'take 2', 'Marble film']);
  expect(names(listedProjects(all, '', 'name'))).toEqual(['Marble film', 'take 2', 'Take 10']);
  expect(names(listedProjects(all, '', 'length'))).toEqual(['take 2', 'Marble film', 'Take 10']);
  expect(names(listedProjects(all, '', 'size'))).toEqual(['Take 10', 'Marble film', 'take 2']);
});

it('projects are found by all words of their names, in any order and case', () => {
  expect(names(listedProjects(all, 'TAKE', 'name'))).toEqual(['take 2', 'Take 10']);
  expect(names(listedProjects(all, ' film  mar ', 'name'))).toEqual(['Marble film']);
  expect(listedProjects(all, 'film take', 'name')).toEqual([]);
});

it('lengths are told as people say them', () => {
  expect([0, 7.94, 65, 3599.6, 5400].map(lengthWords)).toEqual(['0.0 s', '7.9 s', '1:05', '1:00:00', '1:30:00']);
});
