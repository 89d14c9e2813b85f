import { makeRate } from '@hastig/core';
import { countField, factorField, lengthField, numberField, percentField, sourceField, speedField } from './specs';

describe('a number is stepped', () => {
  it('by a hundredth of a speed, from wherever it stands to the next one', () => {
    const speed = speedField('Speed', '40%');
    expect(speed.step!('40%', 1)).toBe('41%');
    expect(speed.step!('x0.405', -1)).toBe('40%');
    expect(speed.step!('0', -1)).toBe('-1%');
    expect(speed.step!('soon', 1)).toBeUndefined();
  });

  it('by a frame, whichever way it is written', () => {
    const rate = makeRate(24);
    expect(lengthField('Lasts', '12f', rate, 'frames').step!('12f', 1)).toBe('13f');
    expect(lengthField('Lasts', '12f', rate, 'timecode').step!('00:00:00:23', 1)).toBe('00:00:01:00');
    expect(sourceField('Source', '1', 'frames-from-1').step!('1', 1)).toBe('2');
  });

  it('not at all from an entry that is empty or wrong, however it is written', () => {
    const rate = makeRate(30000, 1001);
    for (const unit of ['frames', 'timecode', 'seconds'] as const) {
      for (const text of ['', '  ', 'soon', '1:2:3:4:5', '1e999']) {
        expect(lengthField('Lasts', '12f', rate, unit).step!(text, 1)).toBeUndefined();
      }
    }
  });

  it('only to what the field takes', () => {
    expect(lengthField('Lasts', '1f', makeRate(24), 'frames').step!('1', -1)).toBeUndefined();
    expect(factorField('Times', '1%').step!('1%', -1)).toBeUndefined();
    expect(countField('Steps', '2', 2).step!('2', -1)).toBeUndefined();
    expect(countField('Steps', '2', 2).step!('2', 1)).toBe('3');
  });
});

describe('a speed that is typed', () => {
  const inWords = speedField('Speed', '100%').comesTo!;

  it.each([
    ['40%', '×0.40 · 40%'],
    ['0.4', '×0.40 · 40%'],
    ['-1', '−×1.00 · -100%'],
    ['800%', '×8.00 · 800%'],
  ])('comes to what is said: %s', (text, words) => {
    expect(inWords(text)).toBe(words);
  });

  it('says how to type a percentage where a bare number may have been meant as one', () => {
    expect(inWords('50')).toBe('×50.00 · 5000%. For ×0.50 type 50%.');
    expect(inWords('4')).not.toContain('type');
  });

  it('comes to nothing while it is no speed', () => {
    expect(inWords('fast')).toBeUndefined();
  });
});

describe('a number within bounds', () => {
  const share = percentField('Opacity', '100%', 0, 1);
  const turn = numberField('Turn', '0', -360, 360);

  it('is typed with or without its sign', () => {
    expect(['40', '40%', '37.5%', '-0'].map((text) => share.parse(text))).toEqual(
      [0.4, 0.4, 0.375, 0].map((value) => ({ ok: true, value })),
    );
    expect(['-90', '12,5', '−3'].map((text) => turn.parse(text))).toEqual(
      [-90, 12.5, -3].map((value) => ({ ok: true, value })),
    );
  });

  it('says why it is not taken', () => {
    expect(share.parse('101')).toEqual({ ok: false, reason: 'must be between 0% and 100%' });
    expect(share.parse('')).toMatchObject({
      ok: false,
      reason: expect.stringContaining('isn’t a percentage') as string,
    });
    expect(turn.parse('361')).toEqual({ ok: false, reason: 'must be between -360 and 360' });
    for (const text of ['', 'abc', '1e309']) expect(turn.parse(text)).toEqual({ ok: false, reason: 'is not a number' });
  });

  it('is stepped no further than its bounds', () => {
    expect(share.step!('99.5%', 1)).toBe('100%');
    expect(share.step!('100%', 1)).toBeUndefined();
    expect(turn.step!('12.5', -1)).toBe('12');
  });
});
