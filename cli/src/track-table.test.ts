import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { boxOf, readTrack, trackLines } from './track-table';

const file = async (text: string): Promise<string> => {
  const path = join(await mkdtemp(join(tmpdir(), 'hastig-track-')), 'track.csv');
  await writeFile(path, text);
  return path;
};

it('a track is written as a table and read again; frames may be left out, and lines end in any way', async () => {
  const points = [
    { x: 1.23456, y: 2, confidence: 1 },
    { x: -3, y: 4.5, confidence: 0.25 },
  ];
  const lines = trackLines(points);
  expect(lines).toEqual(['frame,x,y,confidence', '0,1.235,2.000,1.000', '1,-3.000,4.500,0.250']);
  expect([...(await readTrack(await file(lines.join('\r\n'))))]).toEqual([
    [0, { x: 1.235, y: 2, confidence: 1 }],
    [1, { x: -3, y: 4.5, confidence: 0.25 }],
  ]);
  expect([...(await readTrack(await file('7,1,2\n')))]).toEqual([[7, { x: 1, y: 2, confidence: 1 }]]);
});

it.each([
  ['frame,x,y,confidence\n0,1', 'line 2 isn’t frame,x,y,confidence'],
  ['0,1,x,1', 'line 1 isn’t'],
  ['0.5,1,1,1', 'line 1 isn’t'],
  ['-1,1,1,1', 'line 1 isn’t'],
  ['frame,x,y,confidence\n', 'no points'],
])('%j is refused', async (text, reason) => {
  await expect(readTrack(await file(text))).rejects.toThrow(reason);
});

it('a file that is not there is named', async () => {
  await expect(readTrack('/nowhere/track.csv')).rejects.toThrow('/nowhere/track.csv: file not found');
});

it('a box is told in four numbers', () => {
  expect(boxOf('10, 20.5,30,40')).toEqual({ x: 10, y: 20.5, width: 30, height: 40 });
  expect(() => boxOf('1,2,3')).toThrow('needs four numbers');
  expect(() => boxOf('1,2,,4')).toThrow('needs four numbers');
  expect(() => boxOf('1,2,0,4')).toThrow('more than 0');
});
