import Timecode from 'smpte-timecode';
import { formatTimecode, makeRate, timecodeToFrame } from '..';

const ntsc = makeRate(30000, 1001);

describe('drop-frame timecode', () => {
  // SMPTE ST 12-1, drop-frame counting at 29.97.
  it.each([
    [1799, '00:00:59;29'],
    [1800, '00:01:00;02'],
    [17981, '00:09:59;29'],
    [17982, '00:10:00;00'],
    [107892, '01:00:00;00'],
    [2589408, '24:00:00;00'],
  ])('writes frame %i as %s', (frame, text) => {
    expect(formatTimecode(frame, ntsc)).toBe(text);
  });

  it('drops four numbers a minute at 59.94', () => {
    const double = makeRate(60000, 1001);
    expect(formatTimecode(3599, double)).toBe('00:00:59;59');
    expect(formatTimecode(3600, double)).toBe('00:01:00;04');
    expect(formatTimecode(2 * 17982, double)).toBe('00:10:00;00');
  });

  it('agrees with an independent package on 100 000 frames, both ways (smpte-timecode)', () => {
    for (let frame = 0; frame < 100_000; frame++) {
      const theirs = new Timecode(frame, 29.97, true);
      const parts = { hours: theirs.hours, minutes: theirs.minutes, seconds: theirs.seconds, frames: theirs.frames };
      if (formatTimecode(frame, ntsc) !== theirs.toString()) throw new Error(`frame ${frame}: ${theirs.toString()}`);
      if (timecodeToFrame(parts, ntsc, true) !== frame) throw new Error(`back from ${theirs.toString()}`);
    }
  });

  it('knows no name for the numbers it leaves out', () => {
    expect(timecodeToFrame({ hours: 0, minutes: 1, seconds: 0, frames: 1 }, ntsc, true)).toBeUndefined();
    expect(timecodeToFrame({ hours: 0, minutes: 10, seconds: 0, frames: 1 }, ntsc, true)).toBe(17983);
  });
});

describe('non-drop timecode', () => {
  it('agrees with an independent package at 25 and 24 (smpte-timecode)', () => {
    for (const base of [24, 25] as const) {
      for (let frame = 0; frame < 100_000; frame += 7) {
        expect(formatTimecode(frame, makeRate(base))).toBe(new Timecode(frame, base, false).toString());
      }
    }
  });

  it('counts 23.976 on the base of 24 and 120 with three digits', () => {
    expect(formatTimecode(24 * 60, makeRate(24000, 1001))).toBe('00:01:00:00');
    expect(formatTimecode(119, makeRate(120))).toBe('00:00:00:119');
  });

  it('writes frames before the start with a minus and refuses parts of frames', () => {
    expect(formatTimecode(-26, makeRate(25))).toBe('-00:00:01:01');
    expect(() => formatTimecode(1.5, makeRate(25))).toThrow(RangeError);
  });
});
