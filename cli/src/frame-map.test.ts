import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { RetimeMap } from '@hastig/contract';
import { frameMapLines } from './frame-map';
import { readMapFile } from './map-file';

const documented: RetimeMap = {
  sourceRate: { num: 30, den: 1 },
  outputRate: { num: 30, den: 1 },
  sourceFrames: 150,
  start: 0,
  spans: [
    {
      of: 'position',
      frames: 50,
      x: [0.3333333333333333, 0.6666666666666667],
      y: [0, 8.333333333333334, 16.666666666666668, 25],
    },
    { of: 'speed', frames: 24, x: [0.42, 0.58], y: [1, 1, 0.4, 0.4] },
  ],
};

describe('frame-map', () => {
  const lines = [...frameMapLines(documented)];

  it('prints a row an output frame, with nine decimals', () => {
    expect(lines[0]).toBe('output,source,held,speed');
    expect(lines).toHaveLength(1 + 74);
    expect(lines[1]).toBe('0,0.000000000,0,0.500000000');
    expect(lines[50]).toBe('49,24.500000000,24,0.500000000');
    expect(lines[51]).toBe('50,25.000000000,25,1.000000000');
    expect(lines.slice(1).every((line) => /^\d+,-?\d+\.\d{9},\d+,-?\d+\.\d{9}$/.test(line))).toBe(true);
  });

  it('has no minus before a zero, and tells what lies outside the source without clamping it', () => {
    const back: RetimeMap = {
      ...documented,
      sourceFrames: 10,
      start: 2,
      spans: [{ of: 'speed', frames: 5, x: [0, 1], y: [-1, -1, -1, -1] }],
    };
    expect([...frameMapLines(back)].slice(1)).toEqual([
      '0,2.000000000,2,-1.000000000',
      '1,1.000000000,1,-1.000000000',
      '2,0.000000000,0,-1.000000000',
      '3,-1.000000000,0,-1.000000000',
      '4,-2.000000000,0,-1.000000000',
    ]);
  });
});

describe('reading a map file', () => {
  const file = (content: string): string => {
    const path = join(mkdtempSync(join(tmpdir(), 'hastig-cli-')), 'map.json');
    writeFileSync(path, content);
    return path;
  };

  it('gives the documented map', async () => {
    expect(await readMapFile(file(JSON.stringify(documented)))).toEqual(documented);
  });

  it.each([
    ['{', /not valid JSON/],
    [JSON.stringify({ ...documented, start: undefined }), /start is missing/],
    [JSON.stringify(documented).replace('"frames":24', '"frames":1e309'), /spans\/1\/frames/],
  ])('names the file and the field: %#', async (content, reason) => {
    await expect(readMapFile(file(content))).rejects.toThrow(reason);
    await expect(readMapFile(file(content))).rejects.toThrow('map.json');
  });
});
