import fc from 'fast-check';
import {
  formatFactor,
  formatMoment,
  formatPercent,
  formatSourceFrame,
  formatTime,
  makeRate,
  parseFrame,
  parseMoment,
  parseSourceFrame,
  parseSpeed,
  parseTime,
  rateFromNumber,
  rateRatio,
} from '..';

const thirty = makeRate(30);
const ntsc = makeRate(30000, 1001);
const value = (parsed: ReturnType<typeof parseSpeed>): number => {
  if (!parsed.ok) throw new Error(parsed.reason);
  return parsed.value;
};

describe('speeds as people type them', () => {
  it.each([
    ['40%', 0.4],
    ['40%', 0.4],
    ['0.4', 0.4],
    ['.4', 0.4],
    ['0,4', 0.4],
    ['x0.4', 0.4],
    ['×0.40', 0.4],
    ['2x', 2],
    ['-100%', -1],
    ['−×0.60', -0.6],
    ['-0', 0],
  ])('%s is %d', (text, speed) => {
    expect(value(parseSpeed(text))).toBe(speed);
  });

  it.each(['abc', '', '1e309', '4 0', '%', '--1', 'NaN', '0x10', '1e5'])('refuses "%s" with a reason', (text) => {
    expect(parseSpeed(text)).toMatchObject({ ok: false, reason: expect.stringMatching(/type|range/) });
  });

  it('reads back what it shows', () => {
    fc.assert(
      fc.property(fc.integer({ min: -90_00, max: 90_00 }), (hundredths) => {
        const speed = hundredths / 100;
        expect(value(parseSpeed(formatFactor(speed)))).toBeCloseTo(speed, 9);
        expect(value(parseSpeed(formatPercent(speed)))).toBeCloseTo(speed, 9);
      }),
    );
  });
});

describe('times as people type them', () => {
  it.each([
    ['77f', 77],
    ['2.5s', 75],
    ['2:17', 77],
    ['1:02:17', 1877],
    ['00:00:02:17', 77],
    ['77', 77],
    ['-2:00', -60],
  ])('%s is %d frames at 30', (text, frames) => {
    expect(value(parseTime(text, thirty))).toBe(frames);
  });

  it('reads drop-frame timecode only where it exists', () => {
    expect(value(parseTime('00:00:02;17', ntsc))).toBe(77);
    expect(value(parseTime('00:01:00;02', ntsc))).toBe(1800);
    expect(parseTime('00:01:00;01', ntsc)).toMatchObject({
      ok: false,
      reason: expect.stringContaining('skipped by drop-frame'),
    });
    expect(parseTime('00:00:02;17', makeRate(25))).toMatchObject({
      ok: false,
      reason: expect.stringContaining('drop-frame'),
    });
  });

  it('takes a bare number in the unit of the field', () => {
    expect(value(parseTime('2', thirty, 'seconds'))).toBe(60);
    expect(value(parseTime('2', thirty, 'timecode'))).toBe(2);
  });

  it.each(['', 'abc', '1:2:3:4:5', '2:30', '1:61:00', '1e3', '99999999999999f'])('refuses "%s"', (text) => {
    expect(parseTime(text, thirty).ok).toBe(false);
  });

  it('reads frames back from every way of showing them', () => {
    for (const unit of ['timecode', 'frames', 'seconds'] as const) {
      for (let frame = 0; frame < 4000; frame += 13) {
        expect(value(parseTime(formatTime(frame, thirty, unit), thirty, unit))).toBeCloseTo(
          frame,
          unit === 'seconds' ? 1 : 6,
        );
      }
    }
  });

  it('reads frame numbers', () => {
    expect(value(parseFrame('0077'))).toBe(77);
    expect(parseFrame('7.5').ok).toBe(false);
  });
});

describe('rates', () => {
  it('keeps them in lowest terms and refuses what is none', () => {
    expect(makeRate(60, 2)).toEqual({ num: 30, den: 1 });
    expect(() => makeRate(0)).toThrow(RangeError);
    expect(() => makeRate(29.97)).toThrow(RangeError);
    expect(rateRatio(makeRate(60), ntsc)).toBe((60 * 1001) / 30000);
  });

  // The rates of SMPTE ST 12-1 and its relatives, as rounded containers give them back.
  it.each([
    [29.97, 30000, 1001],
    [23.976, 24000, 1001],
    [59.9401, 60000, 1001],
    [119.88, 120000, 1001],
    [25, 25, 1],
    [30.0003, 30, 1],
    [12.5, 25, 2],
    [1 / 3, 1, 3],
  ])('recognises %d', (measured, num, den) => {
    expect(rateFromNumber(measured)).toEqual({ num, den });
  });
});

describe('counting from 1', () => {
  it('calls the first frame 1, in moments and source frames, and leaves lengths alone', () => {
    expect(formatMoment(0, thirty, 'frames-from-1')).toBe('1f');
    expect(formatMoment(0, thirty, 'frames')).toBe('0f');
    expect(formatMoment(60, thirty, 'timecode')).toBe('00:00:02:00');
    expect(formatTime(12, thirty, 'frames-from-1')).toBe('12f');
    expect(formatSourceFrame(76.5, 'frames-from-1')).toBe('77.5');
  });

  it('is undone by typing', () => {
    expect(parseMoment('49', thirty, 'frames-from-1')).toEqual({ ok: true, value: 48 });
    expect(parseMoment('49f', thirty, 'frames-from-1')).toEqual({ ok: true, value: 48 });
    expect(parseMoment('2s', thirty, 'frames-from-1')).toEqual({ ok: true, value: 60 });
    expect(parseMoment('2:00', thirty, 'frames-from-1')).toEqual({ ok: true, value: 60 });
    expect(parseSourceFrame('77', 'frames-from-1')).toEqual({ ok: true, value: 76 });
    expect(parseSourceFrame('77.5', 'frames')).toEqual({ ok: true, value: 77.5 });
    for (const bad of ['', 'abc', '1e309', '1:2']) expect(parseSourceFrame(bad, 'frames').ok).toBe(false);
    expect(parseSourceFrame('-0', 'frames')).toEqual({ ok: true, value: 0 });
  });
});
