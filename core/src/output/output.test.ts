import { outputFormats, type OutputForm } from '@hastig/contract';
import {
  builtInPresets,
  even,
  fileEnding,
  fitScale,
  formatFacts,
  gifFault,
  levelled,
  makeRate,
  markerSpans,
  nameFrom,
  parseRate,
  patternFault,
  pictureCodingOf,
  presetFault,
  presetsOf,
  programOf,
  removePreset,
  sampleRateOf,
  savePreset,
  SEQUENCE,
  sizesOf,
  soundCodingOf,
} from '..';
import { rowOf } from '../../test/projects';

const parts = { name: 'The drop', project: 'Marbles', range: '12-40', number: '01', size: '1280x720', rate: '24', date: '2026-12-01' }; // prettier-ignore

describe('sizes', () => {
  it('are the nearest even ones', () => {
    expect([853.3, 853, 852.9, 1, 0, 1080, 405].map(even)).toEqual([854, 854, 852, 2, 2, 1080, 406]);
    expect(sizesOf({ width: 1280, height: 720 })).toEqual([
      { width: 1280, height: 720 },
      { width: 960, height: 540 },
      { width: 854, height: 480 },
      { width: 640, height: 360 },
    ]);
    expect(sizesOf({ width: 1080, height: 1920 })[1]).toEqual({ width: 720, height: 1280 });
  });

  it('frames lie in them whole, over all of them, or pixel for pixel', () => {
    const [frame, upright] = [
      { width: 1280, height: 720 },
      { width: 720, height: 1280 },
    ];
    expect(fitScale('fit', frame, upright)).toBeCloseTo(720 / 1280, 12);
    expect(fitScale('fill', frame, upright)).toBeCloseTo(1280 / 720, 12);
    expect(fitScale('crop', frame, upright)).toBe(1);
  });
});

describe('names', () => {
  it('are made of their parts, without what names must not contain', () => {
    expect(nameFrom('{project} {name} {range}', parts)).toBe('Marbles The drop 12-40');
    expect(nameFrom('{name}', { ...parts, name: 'a/b: c\u0007?' })).toBe('a b c');
    expect(nameFrom('{range}', { ...parts, range: '..' })).toBe('Render');
    expect([...nameFrom('{name}', { ...parts, name: '🙂'.repeat(300) })]).toHaveLength(120);
  });

  it.each([
    ['{name} {number}', undefined],
    [' ', /is empty/],
    ['a/b', /must not contain/],
    ['{naem}', /has \{naem\}: use \{name\}/],
    ['{name', /has \{name/],
    ['x'.repeat(121), /is too long/],
  ])('of the pattern %j', (pattern, fault) => {
    if (fault) expect(patternFault(pattern)).toMatch(fault);
    else expect(patternFault(pattern)).toBeUndefined();
  });
});

it('stretches go from marker to marker, and the last one to the end', () => {
  const markers = [{ at: 90, name: 'late' }, { at: 10, name: 'drop' }, { at: 50, name: '' }, { at: 50, name: 'again' }, { at: 200, name: 'past' }]; // prettier-ignore
  expect(markerSpans(markers, 100)).toEqual([
    { from: 10, to: 50, name: 'drop' },
    { from: 50, to: 90 },
    { from: 90, to: 100, name: 'late' },
  ]);
  expect(markerSpans([], 100)).toEqual([]);
});

describe('formats', () => {
  it('code what they are asked for where they take it, and what is usual else', () => {
    const codings = (form: OutputForm) => [pictureCodingOf(form), soundCodingOf(form)];
    expect(codings({ format: 'mp4' })).toEqual(['avc', 'aac']);
    expect(codings({ format: 'mp4', pictureCoding: 'av1', soundCoding: 'flac' })).toEqual(['av1', 'flac']);
    expect(codings({ format: 'mov', pictureCoding: 'av1', soundCoding: 'pcm-s24' })).toEqual(['avc', 'pcm-s24']);
    expect(codings({ format: 'webm', soundCoding: 'aac' })).toEqual(['vp9', 'opus']);
    expect(codings({ format: 'wav' })).toEqual([undefined, 'pcm-s24']);
    expect(codings({ format: 'png' })).toEqual([undefined, undefined]);
    expect(outputFormats.map(fileEnding).filter((ending) => ending === 'zip')).toHaveLength(3);
  });

  it('are at sample rates that their codings have', () => {
    expect(sampleRateOf({ format: 'ogg', sampleRate: 44_100 })).toBe(48_000);
    expect(sampleRateOf({ format: 'mp3', sampleRate: 96_000 })).toBe(48_000);
    expect(sampleRateOf({ format: 'mp3', sampleRate: 44_100 })).toBe(44_100);
    expect(sampleRateOf({ format: 'wav', sampleRate: 96_000 })).toBe(96_000);
  });

  it('a GIF is short, and no faster than viewers are', () => {
    expect(gifFault(1500, 50)).toBeUndefined();
    expect(gifFault(1501, 24)).toMatch(/1500 frames at most/);
    expect(gifFault(10, 60)).toMatch(/50 frames a second/);
  });
});

describe('presets', () => {
  it('of the program fit their formats', () => {
    for (const { form } of builtInPresets) {
      const { pictures, sounds } = formatFacts[form.format];
      expect(form.pictureCoding === undefined || pictures.includes(form.pictureCoding)).toBe(true);
      expect(form.soundCoding === undefined || sounds.includes(form.soundCoding)).toBe(true);
    }
    expect(presetFault({ format: 'wav' }, { seen: true, audible: false })).toMatch(/no sound/);
    expect(presetFault({ format: 'mp4' }, { seen: false, audible: true })).toMatch(/no picture/);
  });

  it('of a project are saved by their names, replaced and removed', () => {
    const [first] = [savePreset(rowOf(10), 'Mine', { format: 'mov' }, 'p1')];
    const second = savePreset(first, 'Mine', { format: 'mkv' }, 'p2');
    expect(second.presets).toEqual([{ id: 'p1', name: 'Mine', form: { format: 'mkv' } }]);
    expect(presetsOf(second)).toHaveLength(builtInPresets.length + 1);
    expect(removePreset(second, 'p1')).toEqual(rowOf(10));
  });
});

it('what is brought to a loudness gets the gain that is missing, and a limit for its peaks', () => {
  const program = programOf(rowOf(10), SEQUENCE);
  expect(levelled(program, { integrated: -20 }, -14).master).toEqual({ gain: 6, limit: -1 });
  const set = { ...program, master: { gain: -3, limit: -2 } };
  expect(levelled(set, { integrated: -10 }, -23).master).toEqual({ gain: -16, limit: -2 });
});

it.each([
  ['24', makeRate(24)],
  ['29.97', makeRate(30_000, 1001)],
  ['23,976', makeRate(24_000, 1001)],
  ['24000/1001', makeRate(24_000, 1001)],
  [' 12.5 ', makeRate(25, 2)],
  ['0', undefined],
  ['-24', undefined],
  ['1000', undefined],
  ['24/0', undefined],
  ['24/1/1', undefined],
  ['fast', undefined],
  ['', undefined],
])('%j is typed for a rate', (text, rate) => {
  expect(parseRate(text)).toEqual(rate);
});
