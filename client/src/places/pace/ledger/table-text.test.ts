import { constantSpan, eases, positionAt, rampSpan, speedAt } from '@hastig/core';
import type { RetimeMap } from '@hastig/contract';
import { fromTable, toTable } from './table-text';

const rate = { num: 24, den: 1 };
const map: RetimeMap = {
  sourceRate: rate,
  outputRate: rate,
  sourceFrames: 500,
  start: 0,
  spans: [constantSpan(1, 48), rampSpan(1, 0.4, 12, eases['ease-in-out']), constantSpan(0.4, 60)],
};

describe('the ledger as a table', () => {
  it('has a row a key, in the unit that is shown', () => {
    expect(toTable(map, 'frames').split('\n')).toEqual([
      'output\tsource\tspeed in\tspeed out\tease',
      '0f\t0\t\t100%\tconstant',
      '48f\t48\t100%\t100%\tease-in-out',
      '60f\t56.4\t40%\t40%\tconstant',
      '120f\t80.4\t40%\t\t',
    ]);
    expect(toTable(map, 'frames-from-1').split('\n')[2]).toMatch(/^49f\t49/);
    expect(toTable(map, 'timecode').split('\n')[2]).toMatch(/^00:00:02:00\t/);
  });

  it.each(['timecode', 'frames', 'frames-from-1', 'seconds'] as const)(
    'is read back as it was written, in %s',
    (unit) => {
      const read = fromTable(map, toTable(map, unit), unit, 'smooth');
      for (const t of [0, 20, 50, 54, 58, 90, 119]) expect(positionAt(read, t)).toBeCloseTo(positionAt(map, t), 9);
    },
  );

  it('takes two columns without a head, with commas, semicolons or tabs', () => {
    for (const mark of [',', ';', '\t']) {
      const read = fromTable(map, `0${mark}0\n50${mark}25\n75${mark}10`, 'frames', 'linear');
      expect([speedAt(read, 10), speedAt(read, 60)]).toEqual([expect.closeTo(0.5, 12), expect.closeTo(-0.6, 12)]);
    }
  });

  it('finds its columns by their names, in any order', () => {
    const read = fromTable(map, 'note,source,output\nstart,12,0\nend,60,24', 'frames', 'linear');
    expect(positionAt(read, 0)).toBe(12);
  });

  it.each([
    ['', 'The table is empty'],
    ['source\tspeed in\n1\t1', 'no column “output”'],
    ['output\tspeed out\n0\t1', 'no column “source”. It has: output, speed out.'],
    ['output\tsource\tspeed in\tspeed out\n0\t0\t\tfast\n9\t9\t1\t', 'Row 2: speed out isn’t valid'],
    ['0,0\nabc,4', 'Row 2: output isn’t a time'],
  ])('refuses %j', (text, reason) => {
    expect(() => fromTable(map, text, 'frames', 'smooth')).toThrow(reason);
  });
});
