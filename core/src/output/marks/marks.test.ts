import { makeRate } from '../../time';
import { u32, utf8, zeros } from './bytes';
import { chapterComments } from './comments';
import { chaptersOf, startTimecode, timecodeText, type FileMarks } from './file-marks';
import { id3Tag } from './id3';
import { markMovie } from './isobmff';
import { markSegment } from './matroska';
import { markWave } from './wave';

const markers = [
  { at: 48, name: 'Second bounce' },
  { at: 24, name: '' },
  { at: 30, name: 'beat', kind: 'beat' as const },
  { at: 24, name: 'again' },
];
const marks: FileMarks = {
  ...{ rate: makeRate(24), frames: 96 },
  chapters: chaptersOf(markers, { from: 0, to: 96 }, 'Marble film'),
};

const hour = (rate: number): number => 3600 * rate;

describe('chapters', () => {
  it('go from one marker set by hand to the next, without gaps, from the first frame to the last', () => {
    expect(marks.chapters).toEqual([
      { from: 0, to: 24, name: 'Marble film' },
      { from: 24, to: 48, name: 'Chapter 1' },
      { from: 48, to: 96, name: 'Second bounce' },
    ]);
    expect(chaptersOf(markers, { from: 24, to: 40 }, 'part', 'all')).toEqual([
      { from: 0, to: 6, name: 'Chapter 1' },
      { from: 6, to: 16, name: 'beat' },
    ]);
    expect(chaptersOf(markers, { from: 0, to: 96 }, '', 'none')).toEqual([]);
    expect(chaptersOf(markers, { from: 0, to: 24 }, '')).toEqual([]);
    // From one marker to the next there is nothing to tell apart.
    expect(chaptersOf(markers, { from: 24, to: 48 }, '')).toEqual([]);
  });

  it('are no more than three figures count', () => {
    const many = Array.from({ length: 2000 }, (_, at) => ({ at, name: `m${at}` }));
    const all = chaptersOf(many, { from: 0, to: 2000 }, '');
    expect(all).toHaveLength(999);
    expect(all.at(-1)).toEqual({ from: 998, to: 2000, name: 'm998' });
  });
});

describe('the start timecode', () => {
  it('has the same hour, minute and second at another rate, and is as far through it', () => {
    const text = (frame: number, from: number, to: Parameters<typeof startTimecode>[2]): string =>
      timecodeText(startTimecode(frame, makeRate(from), to));
    expect(text(hour(25), 25, makeRate(25))).toBe('01:00:00:00');
    expect(text(hour(25) + 12, 25, makeRate(50))).toBe('01:00:00:24');
    expect(text(hour(24), 24, makeRate(30_000, 1001))).toBe('01:00:00;00');
    // Drop-frame counting has no 00:01:00;00 (SMPTE ST 12-1).
    expect(text(60 * 24, 24, makeRate(30_000, 1001))).toBe('00:01:00;02');
  });
});

// Read by readers that are not ours, these are in the browser tests; here is what those would never see.
describe('files', () => {
  it('with a broken index or without room are refused, not spoilt', () => {
    expect(() => markMovie(Uint8Array.from([...u32(16), ...utf8('moov'), ...u32(900), ...utf8('trak')]), marks, 0)).toThrow(RangeError); // prettier-ignore
    expect(() => markSegment(zeros(64), marks)).toThrow('no room');
  });

  it('an odd end of a WAVE file is made even before what follows, and a long one tells its size in 64 bits', () => {
    const [tail, size] = markWave(utf8('RIFF'.padEnd(28)), marks, 101, 48_000);
    expect([tail!.at, tail!.bytes[0], String.fromCharCode(...tail!.bytes.subarray(1, 5))]).toEqual([101, 0, 'cue ']);
    expect(new DataView(size!.bytes.buffer).getUint32(0, true)).toBe(101 + tail!.bytes.length - 8);
    const [, long] = markWave(utf8('RF64'.padEnd(28)), marks, 5e9, 48_000);
    expect([long!.at, long!.bytes.length]).toEqual([20, 8]);
    expect(markWave(utf8('RIFF'.padEnd(28)), { ...marks, chapters: [] }, 101, 48_000)).toEqual([]);
  });

  it('a Broadcast Wave’s time reference counts by the clock: at 23.976 an hour is 3603.6 seconds (common practice)', () => {
    const rate = makeRate(24_000, 1001);
    const timecode = startTimecode(hour(24), rate, rate);
    const { bytes } = markWave(utf8('RIFF'.padEnd(28)), { ...marks, chapters: [], timecode }, 100, 48_000)[0]!;
    const view = new DataView(bytes.buffer);
    // EBU Tech 3285: 338 bytes of text come before it; the chunk has 602.
    expect(view.getUint32(4, true)).toBe(602);
    expect(view.getUint32(8 + 338, true) + view.getUint32(8 + 342, true) * 2 ** 32).toBe(3603.6 * 48_000);
  });

  it('more chapters than a table of MP3 counts are in tables of a table', () => {
    const chapters = chaptersOf(Array.from({ length: 600 }, (_, at) => ({ at, name: `m${at}` })), { from: 0, to: 600 }, ''); // prettier-ignore
    const tag = new TextDecoder('latin1').decode(id3Tag({ ...marks, chapters }, 'film'));
    expect(tag.split('CTOC')).toHaveLength(1 + 4);
    expect(tag.split('CHAP')).toHaveLength(1 + 600);
  });

  it('comments tell hours, minutes and thousandths', () => {
    expect(
      chapterComments({
        ...marks,
        chapters: [
          { from: 0, to: 24 * 3661.5, name: 'a' },
          { from: 24 * 3661.5, to: 1e5, name: 'b' },
        ],
      }),
    ).toEqual({
      // prettier-ignore
      CHAPTER001: '00:00:00.000',
      CHAPTER001NAME: 'a',
      CHAPTER002: '01:01:01.500',
      CHAPTER002NAME: 'b',
    });
  });
});
