import { createRequire } from 'node:module';
import type { Marker, Rate } from '@hastig/contract';
import {
  makeRate,
  markersFromCsv,
  markersFromVtt,
  markersToCsv,
  markersToVtt,
  MarkersUnreadable,
  standardRates,
} from '..';

const marker = (at: number, name: string, tone: Marker['tone'] = 'oak'): Marker => ({ id: `m${at}`, at, name, tone });
const markers = [
  marker(0, 'Throw'),
  marker(1, 'A <b>bounce</b> & a click', 'plum'),
  marker(17_982, 'Lands, “softly”\twith "quotes"', 'moss'),
  marker(107_892, '=1+1'),
];
const withoutIds = (all: readonly Marker[]) =>
  all.map(({ at, name, tone }) => ({ at, name: name.replace('\t', ' '), tone }));

describe('markers as WebVTT', () => {
  it.each(standardRates.map((rate): [string, Rate] => [`${rate.num}/${rate.den}`, rate]))(
    'come back to the frame at %s',
    (_, rate) => {
      const all = Array.from({ length: 2000 }, (_unused, n) => marker(n * 7, `m ${n}`));
      expect(markersFromVtt(markersToVtt({ rate, markers: all }), rate).map(({ at }) => at)).toEqual(
        all.map(({ at }) => at),
      );
    },
  );

  it('keep names and tones, and are valid to an independent parser of the standard (webvtt-parser)', () => {
    const rate = makeRate(30000, 1001);
    const text = markersToVtt({ rate, markers });
    expect(markersFromVtt(text, rate)).toEqual(withoutIds(markers));
    const { WebVTTParser } = createRequire(__filename)('webvtt-parser') as {
      WebVTTParser: new () => { parse(text: string): { errors: unknown[]; cues: { startTime: number }[] } };
    };
    const { errors, cues } = new WebVTTParser().parse(text);
    expect(errors).toEqual([]);
    expect(cues.map(({ startTime }) => startTime)).toEqual([0, 0.033, 599.999, 3599.996]);
  });

  it('come from other programs’ cues, tags and all', () => {
    const text = 'WEBVTT - notes\n\n00:01.500 --> 00:03.000 align:start\n<v Ada>first\nthrow\n\n';
    expect(markersFromVtt(text, makeRate(24))).toEqual([{ at: 36, name: 'first throw', tone: 'oak' }]);
    expect(() => markersFromVtt('hello', makeRate(24))).toThrow(MarkersUnreadable);
  });
});

describe('markers as CSV (RFC 4180)', () => {
  it('keep everything, and no name becomes a formula', () => {
    const rate = makeRate(30000, 1001);
    const text = markersToCsv({ rate, markers });
    expect(text.split('\r\n')[0]).toBe('frame,timecode,name,tone');
    expect(text).toContain('17982,00:10:00;00,');
    expect(text).not.toMatch(/,=1/);
    expect(markersFromCsv(text, rate).map(({ at, tone }) => [at, tone])).toEqual(
      markers.map(({ at, tone }) => [at, tone]),
    );
    expect(markersFromCsv(text, rate)[3]!.name).toBe('=1+1');
  });

  it('are found by timecode where no frame is given, and what is wrong is told with its row', () => {
    const rate = makeRate(25);
    expect(markersFromCsv('Timecode;Name\n00:00:02:10;Hit\n', rate)).toEqual([{ at: 60, name: 'Hit', tone: 'oak' }]);
    expect(() => markersFromCsv('frame,name\n12,a\nx,b\n', rate)).toThrow('row 3: “x” isn’t a frame number');
    expect(() => markersFromCsv('when,name\n12,a\n', rate)).toThrow('must name the columns');
    expect(() => markersFromCsv('timecode\n00:00:00:99\n', rate)).toThrow('row 2');
  });
});
