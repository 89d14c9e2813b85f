import { PunctualityCount } from './punctuality';

describe('how punctual a play was', () => {
  it('counts what was shown, what was passed over, and the longest delay', () => {
    const count = new PunctualityCount(10);
    for (const [turn, delay] of [[10, 2], [11, 5], [14, 31], [15, 4]] as const) count.drawn(turn, delay); // prettier-ignore
    expect(count.result).toEqual({ shown: 4, skipped: 2, worstDelay: 31 });
  });

  it('counts frames that passed before the first was drawn', () => {
    const count = new PunctualityCount(0);
    count.drawn(3, 1);
    expect(count.result.skipped).toBe(3);
  });

  it('counts backwards too', () => {
    const count = new PunctualityCount(20, -1);
    for (const turn of [20, 19, 16]) count.drawn(turn, 0);
    expect(count.result).toMatchObject({ shown: 3, skipped: 2 });
  });
});
