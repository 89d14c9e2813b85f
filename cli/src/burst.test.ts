import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { RetimeMap } from '@hastig/contract';
import { constantSpan, positionAt } from '@hastig/core';
import { burstMap, readSeconds, type BurstFlags } from './burst';
import { beatLines, momentLines, onsetLines } from './beat-tables';

const map: RetimeMap = {
  sourceRate: { num: 30, den: 1 },
  outputRate: { num: 30, den: 1 },
  sourceFrames: 300,
  start: 0,
  spans: [constantSpan(1, 300)],
};
const flags: BurstFlags = { base: 0.5, speed: [8], frames: 5, every: 1, place: 'from', ramp: 0, keep: 'length' };
const folder = mkdtempSync(join(tmpdir(), 'hastig-burst-'));
const fileOf = (text: string): string => {
  const path = join(
    folder,
    `${Math.abs([...text].reduce((sum, letter) => sum * 31 + letter.charCodeAt(0), 7) % 1e9)}.csv`,
  );
  writeFileSync(path, text);
  return path;
};

it('800% for 5 frames on each beat passes 40 source frames at equal rates (common practice)', () => {
  const made = burstMap(map, [0.5, 1, 1.5], flags);
  for (const frame of [15, 30, 45]) expect(positionAt(made, frame + 5) - positionAt(made, frame)).toBeCloseTo(40, 9);
  const second = burstMap(map, [0.5, 1, 1.5], { ...flags, every: 2, place: 'to' });
  expect(positionAt(second, 15) - positionAt(second, 10)).toBeCloseTo(40, 9);
  expect(positionAt(second, 35) - positionAt(second, 25)).toBeCloseTo(5, 9);
});

it('reads the table that “beats” prints, and tables without a head', async () => {
  expect(await readSeconds(fileOf('seconds,downbeat,strength\n0.500000,1,1.0\n0.250000,0,0.5\n'))).toEqual([0.25, 0.5]);
  expect(await readSeconds(fileOf('1\n2.5\n'))).toEqual([1, 2.5]);
});

it('says what is wrong', async () => {
  await expect(readSeconds(join(folder, 'none.csv'))).rejects.toThrow('file not found');
  await expect(readSeconds(fileOf('seconds\n1\nx\n'))).rejects.toThrow('line 3');
  await expect(readSeconds(fileOf('seconds\n'))).rejects.toThrow('no beats');
  expect(() => burstMap(map, [100], flags)).toThrow('no markers in this range');
});

it('moments are told by whole frames', () => {
  const moments = [
    { frame: 41.99999999, kind: 'hit', strength: 0.5 } as const,
    { frame: 50.7, kind: 'turn', strength: 1 } as const,
  ];
  expect(momentLines(moments)).toEqual(['frame,kind,strength', '42,hit,0.500000', '50,turn,1.000000']);
});

it('silence has no beat and no hits', () => {
  expect(() => beatLines({ readings: [] })).toThrow('no steady beat');
  expect(onsetLines([])).toEqual(['seconds,band,strength']);
});
