import { copyFile, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import type { RetimeMap } from '@hastig/contract';
import { constantSpan, frameCount, makeRate } from '@hastig/core';
import { takeClip } from '../../cli/src/source-facts';
import { discover } from '../../server/src/convert/convert';
import { aviFilm, jpegPlates, packed, stillPicture, visualPlates } from '../support/avi-film';
import { codedBy, converted, pictures, telephoneFilm, telephonePart } from '../support/coded';
import { fixture, hastig, heldFrames, readBars, readPlates, scratch, soundPeak } from '../support/files';
import { hasFramework } from '../support/framework';
import { programStream } from '../support/program-stream';

const numbers = (count: number): number[] => Array.from({ length: count }, (_, n) => n);
const hevc = 'x265enc speed-preset=ultrafast';

/** The greatest distance of times from what they should be, in seconds, both from their first. */
const apart = (times: readonly number[], wanted: readonly number[]): number =>
  Math.max(...times.map((time, n) => Math.abs(time - times[0]! - (wanted[n]! - wanted[0]!))));

test.skip(!hasFramework, 'needs GStreamer');

test('MPEG-2 in fields, in a transport stream with sound, keeps every frame and stays in fields', async () => {
  const source = await codedBy(
    'ts',
    fixture('plates-24.mp4'),
    `${pictures} video/x-raw,format=I420 ! capssetter caps=video/x-raw,interlace-mode=interleaved,field-order=top-field-first !`,
    'mpeg2enc format=3 interlace-mode=1 bitrate=8000 ! mpegvideoparse ! mux.',
    'audiotestsrc wave=ticks num-buffers=258 ! audioconvert ! lamemp3enc bitrate=192 ! mpegaudioparse ! mux. mpegtsmux name=mux',
  );
  expect((await discover(source)).video).toMatchObject({ codec: 'MPEG-2 Video', interlaced: true });
  const out = await converted(source);
  expect((await discover(out)).video!.interlaced).toBe(true);
  const { plates, times } = await readPlates(out);
  expect(plates).toEqual(numbers(144));
  // Ticks of the stream's clock, of which there are 90,000 a second (ISO/IEC 13818-1, 2.4.3.7).
  expect(apart(times, numbers(144).map((n) => n / 24))).toBeLessThan(1 / 90_000); // prettier-ignore
  // What MP3 delays by itself is not told in such a stream.
  const heard = await soundPeak(out, 0.8, 1.2);
  expect(Math.abs(heard.time - 1)).toBeLessThan(0.05);
});

// Two muxers that know nothing of each other; MPEG-1 has its own layout of packets.
for (const [kind, mux, format] of [
  ['MPEG-2 in packs of 2,048 bytes', 'avmux_dvd', '3 bitrate=8000'],
  ['MPEG-1', 'avmux_mpeg', '0 bitrate=1150'],
  ['MPEG-2 that begins with a map', 'mpegpsmux', '3 bitrate=8000'],
] as const)
  test(`a program stream, ${kind}, keeps every frame and its sound`, async () => {
    const source = await codedBy(
      'mpg',
      fixture('plates-24.mp4'),
      `${pictures} mpeg2enc format=${format} ! mpegvideoparse ! queue max-size-time=0 ! mux.`,
      'audiotestsrc wave=ticks num-buffers=258 ! audioconvert ! audioresample ! audio/x-raw,rate=48000,channels=2 ! avenc_mp2 !',
      `mpegaudioparse ! queue max-size-time=0 ! mux. ${mux} name=mux`,
    );
    const out = await converted(source);
    const { plates, times } = await readPlates(out);
    expect(plates).toEqual(numbers(144));
    expect(apart(times, numbers(144).map((n) => n / 24))).toBeLessThan(1 / 90_000); // prettier-ignore
    const heard = await soundPeak(out, 0.8, 1.2);
    expect(Math.abs(heard.time - times[0]! - 1)).toBeLessThan(0.05);
  });

for (const [kind, fields] of [
  ['whole', false],
  ['in fields', true],
] as const)
  test(`a program stream that tells times only now and then, of pictures ${kind} stored in another order, keeps every frame and its sound`, async () => {
    const inFields =
      'video/x-raw,format=I420 ! capssetter caps=video/x-raw,interlace-mode=interleaved,field-order=top-field-first !';
    const coder =
      `${fields ? inFields : ''} mpeg2enc format=3 interlace-mode=${fields ? 1 : 0} b-per-refframe=2 bitrate=8000`.trim();
    const video = await readFile(await codedBy('m2v', fixture('plates-24.mp4'), `${pictures} ${coder}`));
    const ticks =
      'audiotestsrc wave=ticks num-buffers=258 ! audioconvert ! audioresample ! audio/x-raw,rate=48000,channels=2';
    const sound = await readFile(await codedBy('mp2', fixture('plates-24.mp4'), `d. ! fakesink ${ticks} ! avenc_mp2 bitrate=384000`)); // prettier-ignore
    const source = join(await scratch(), 'disc.mpg');
    await writeFile(source, programStream(video, sound, 24, { picture: 0.75, sound: 0.5 }));
    const out = await converted(source);
    expect((await takeClip(out)).facts.video!.scan).toBe(fields ? 'topFirst' : 'progressive');
    const { plates, times } = await readPlates(out);
    expect(plates).toEqual(numbers(144));
    expect(apart(times, numbers(144).map((n) => n / 24))).toBeLessThan(1 / 90_000); // prettier-ignore
    // The sound begins a quarter of a second before the picture, and is heard each second of its own.
    const heard = await soundPeak(out, 0.8, 1.2);
    expect(Math.abs(heard.time - (times[0]! + 0.75))).toBeLessThan(0.05);
    expect(times[0]).toBeCloseTo(0.25, 4);
  });

// Three ways in which programs store it; what is left out or fills a place has none of the plates.
for (const [kind, between, piecesOf, stays] of [
  ['picture by picture', 2, (stored: Buffer[]) => stored, []],
  ['with two pictures in a piece', 2, packed, []],
  [
    'with pictures that were dropped, or look as the one before',
    0,
    (stored: Buffer[]) => [
      Buffer.alloc(0),
      ...stored.slice(0, 40),
      Buffer.alloc(0),
      Buffer.alloc(0),
      ...stored.slice(40, 90),
      stillPicture,
      ...stored.slice(90),
    ],
    [0, 40, 40, 90],
  ],
] as const)
  // prettier-ignore
  test(`MPEG-4 in AVI, ${kind}, keeps every frame at its time, and its sound`, async () => {
    const source = join(await scratch(), 'film.avi');
    const pieces = piecesOf(await visualPlates(between));
    await writeFile(source, aviFilm({ coding: 'XVID', width: 320, height: 180, framesPerSecond: 24, pieces, knocks: [5] })); // prettier-ignore
    const out = await converted(source);
    const { plates, times } = await readPlates(out);
    expect(plates).toEqual(numbers(144));
    const place = (plate: number): number => plate + stays.filter((at) => at <= plate).length;
    expect(apart([0, ...times], [0, ...numbers(144).map((n) => place(n) / 24)])).toBeLessThan(1 / 120_000); // prettier-ignore
    expect(Math.abs((await soundPeak(out, 4.9, 5.1)).onset - 5)).toBeLessThan(0.001);
  });

test('H.264 in AVI, stored in another order than it is shown in, keeps every frame', async () => {
  const source = await codedBy('avi', fixture('plates-24.mp4'), `${pictures} x264enc bframes=2 ! h264parse ! video/x-h264,stream-format=byte-stream ! avimux`); // prettier-ignore
  const { plates, times } = await readPlates(await converted(source));
  expect(plates).toEqual(numbers(144));
  expect(apart(times, numbers(144).map((n) => n / 24))).toBeLessThan(1 / 120_000); // prettier-ignore
});

test('Motion JPEG in AVI, some of whose pictures were dropped, keeps its times', async () => {
  const stored = await jpegPlates();
  const pieces = stored.map((piece, n) => (n === 10 || n === 11 || n === 143 ? Buffer.alloc(0) : piece));
  const source = join(await scratch(), 'film.avi');
  await writeFile(source, aviFilm({ coding: 'MJPG', width: 320, height: 180, framesPerSecond: 24, pieces, knocks: [5] })); // prettier-ignore
  const out = await converted(source);
  const { plates, times } = await readPlates(out);
  expect(plates).toEqual(numbers(143).filter((n) => n !== 10 && n !== 11));
  expect(apart(times, plates.map((plate) => plate / 24))).toBeLessThan(1 / 120_000); // prettier-ignore
  expect((await takeClip(out)).facts.video!.frames).toBe(141);
  expect(Math.abs((await soundPeak(out, 4.9, 5.1)).onset - 5)).toBeLessThan(0.001);
});

test('HEVC in open groups, whose first pictures refer to the group before, keeps every frame', async () => {
  const source = await codedBy(
    'mp4',
    fixture('plates-24.mp4'),
    `${pictures} ${hevc} option-string=open-gop=1:keyint=12:min-keyint=12:bframes=3 ! h265parse ! mp4mux`,
  );
  const { plates, times } = await readPlates(await converted(source));
  expect(plates).toEqual(numbers(144));
  expect(apart(times, numbers(144).map((n) => n / 24))).toBeLessThan(1 / 120_000); // prettier-ignore
});

test('HEVC as telephones write it, turned and at a variable rate, is turned and keeps its times', async () => {
  const { path: source, times, knock } = await telephoneFilm();
  expect((await discover(source)).video!.codec).toBe('H.265 / HEVC');
  const out = await converted(source);
  const { video } = (await takeClip(out)).facts;
  expect([video!.width, video!.height, video!.rotation, video!.constantRate]).toEqual([180, 320, 0, false]);
  const read = await readPlates(out, true, telephonePart);
  expect(read.plates).toEqual(numbers(48));
  expect(apart(read.times, times)).toBeLessThan(1 / 10_000);
  const heard = await soundPeak(out, knock - 0.05, knock + 0.1);
  expect(Math.abs(heard.onset - knock)).toBeLessThan(0.001);
});

test('HDR of ten bits keeps what says so, and looks as a file that the browser decodes itself', async () => {
  for (const [light, colorimetry] of [
    ['pq', 'bt2100-pq'],
    ['hlg', 'bt2100-hlg'],
  ] as const) {
    const bars = `video/x-raw,format=I420_10LE,colorimetry=${colorimetry}`;
    const source = fixture('plates-24.mp4');
    const coded = await codedBy('mp4', source, `${pictures} ${bars} ! ${hevc} ! h265parse ! mp4mux`);
    const own = await codedBy('webm', source, `${pictures} ${bars} ! vp9enc deadline=1 cpu-used=8 min-quantizer=4 max-quantizer=10 ! webmmux`); // prettier-ignore
    expect((await discover(coded)).video!.bits).toBe(10);
    const out = await converted(coded);
    expect((await takeClip(out)).facts.video!.light).toBe(light);
    const [made, known] = [await readBars(out), await readBars(own)];
    const worst = Math.max(...made.flatMap((bar, n) => bar.map((value, part) => Math.abs(value - known[n]![part]!))));
    expect(worst).toBeLessThan(8);
  }
});

test('a GIF becomes a film with every picture for as long as it said', async () => {
  const folder = await scratch();
  const map: RetimeMap = {
    ...{ sourceRate: makeRate(24), outputRate: makeRate(20), sourceFrames: 144, start: 0 },
    spans: [constantSpan(1, 40)],
  };
  const [file, clip] = [join(folder, 'map.json'), join(folder, 'plates.mp4')];
  await copyFile(fixture('plates-24.mp4'), clip);
  await writeFile(file, JSON.stringify(map));
  await hastig('apply', clip, '--map', file, '--out', join(folder, 'made'), '--as', 'gif');
  const { plates, times } = await readPlates(await converted(join(folder, 'made', 'plates.gif')));
  expect(plates).toEqual((await heldFrames(map)).slice(0, frameCount(map)));
  expect(apart(times, numbers(times.length).map((n) => n / 20))).toBeLessThan(1 / 120_000); // prettier-ignore
});
