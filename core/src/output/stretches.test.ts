import { makeRate } from '../time';
import { stretchesOf } from './stretches';

describe('the stretches of a film', () => {
  it('follow each other without a gap and begin where a key frame is anyway', () => {
    for (const [rate, keyEvery] of [
      [makeRate(24), 2],
      [makeRate(24000, 1001), 2],
      [makeRate(60000, 1001), 0.3],
      [makeRate(25), 20],
      [makeRate(30), 0.1],
    ] as const) {
      const stretches = stretchesOf(5000, rate, keyEvery);
      expect(stretches[0]!.from).toBe(0);
      expect(stretches.at(-1)!.to).toBe(5000);
      const key = (n: number): number => Math.floor((n * rate.den) / rate.num / keyEvery + 1e-9);
      for (const [index, { from, to }] of stretches.entries()) {
        if (index > 0) expect([from, key(from)]).toEqual([stretches[index - 1]!.to, key(from - 1) + 1]);
        if (index < stretches.length - 1) expect(((to - from) * rate.den) / rate.num).toBeGreaterThan(7.9);
      }
    }
  });

  it('are one where it is short, and none where there is nothing', () => {
    expect(stretchesOf(192, makeRate(24))).toEqual([{ from: 0, to: 192 }]);
    expect(stretchesOf(193, makeRate(24))).toEqual([
      { from: 0, to: 192 },
      { from: 192, to: 193 },
    ]);
    expect(stretchesOf(0, makeRate(24))).toEqual([]);
  });
});
