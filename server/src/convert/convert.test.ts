import { spawnSync } from 'node:child_process';
import { copyFile, mkdtemp, readdir, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ALL_FORMATS, AudioSampleSink, FilePathSource, Input } from 'mediabunny';
import { probeFile } from '../work/probe-file';
import { convertFile, discover } from './convert';
import { ConversionFailed } from './failed';
import { foundWords, readFound } from './found';
import { conversion, TICKS } from './pipeline';

const hevc = join(__dirname, '../../../e2e/fixtures/hevc.mp4');
// Where nothing may be installed, what needs the framework is left out.
const withFramework =
  spawnSync('gst-inspect-1.0', ['libav'], { stdio: 'ignore' }).status === 0 ? describe : describe.skip;

const told = `Properties:
  Duration: 1:02:03.500000000
  container #0: video/quicktime
    video #1: video/x-prores, width=(int)1280
      Tags:
        video codec: Apple ProRes HQ
      Width: 1280
      Height: 720
      Interlaced: true
    audio #2: audio/x-raw, format=(string)S24LE, layout=(string)interleaved
      Channels: 2
    audio #3: audio/x-raw, format=(string)S16LE
`;

describe('what is found in a file', () => {
  it('is its first picture and its first sound', () => {
    expect(readFound(told)).toEqual({
      seconds: 3723.5,
      video: { codec: 'Apple ProRes HQ', width: 1280, height: 720, interlaced: true, bits: undefined, isGif: false },
      audio: { codec: 'unknown', depth: 24 },
    });
    expect(readFound('Analyzing file\nAn error was encountered')).toEqual({ seconds: 0, video: undefined, audio: undefined }); // prettier-ignore
  });
});

it('what nothing here decodes is told, not left out', () => {
  const without = (kind: string): string => `Missing plugins\n (gstreamer|1.0|tool|Some ${kind} decoder|decoder-${kind})\n${told}`; // prettier-ignore
  expect(() => readFound(without('video/x-prores'))).toThrow('Its pictures are coded as Some video/x-prores, which');
  expect(() => readFound(without('audio/x-raw'))).toThrow('Its sound is coded as Some audio/x-raw, which');
  expect(readFound(without('text/x-other')).video!.width).toBe(1280);
});

it('of pictures that are found in two steps the one counts that knows their size', () => {
  const steps = told.replace('    video #1', '    video #2: video/mpeg, mpegversion=(int)1\n      Width: 0\n      Height: 0\n      video #1'); // prettier-ignore
  expect(readFound(steps).video!.height).toBe(720);
});

it('what a file is coded as is told with its bits where they are more than are kept', () => {
  const coded = (bits: number): string =>
    told.replace('video/x-prores,', `video/x-h265, bit-depth-luma=(uint)${bits},`);
  expect(foundWords(readFound(coded(10)))).toBe('Apple ProRes HQ, 10 bit');
  expect(foundWords(readFound(coded(8)))).toBe('Apple ProRes HQ');
  expect(foundWords({ ...readFound(told), video: undefined })).toBe('unknown');
});

describe('a conversion', () => {
  const all = (found = readFound(told)): string =>
    conversion(found, 'x264enc', { path: '/a', inOrder: false }, '/b').join(' ');

  it('has a branch for what there is: one without a pad would wait for ever', () => {
    expect(all()).toMatch(/interlaced=true.* mux\. d\. .*format=S24BE.* mux\. qtmux/);
    expect(all({ ...readFound(told), audio: undefined })).not.toContain('audioconvert');
    expect(all({ ...readFound(told), video: undefined })).not.toContain('x264enc');
    expect(() => all({ seconds: 1, video: undefined, audio: undefined })).toThrow(RangeError);
  });

  it('reads a file from its beginning on where that is wanted', () => {
    const of = (inOrder: boolean): string[] => conversion(readFound(told), 'x264enc', { path: '/a', inOrder }, '/b');
    expect(of(true).slice(0, 6)).toEqual(['-e', 'filesrc', 'location=/a', '!', 'queue', '!']);
    const apart = conversion(readFound(told), 'x264enc', { path: '/a', inOrder: true, video: ['parse'] }, '/b').join(
      ' ',
    );
    expect(apart).toMatch(
      /^-e fdsrc fd=0 ! parse ! decodebin name=v filesrc .* name=d .*audio\/x-raw v\. .* d\. .*S24BE/,
    );
    expect(of(false).slice(0, 5)).toEqual(['-e', 'filesrc', 'location=/a', '!', 'decodebin']);
  });

  it('has times in ticks in which frames of all rates of film and television are whole', () => {
    for (const [num, den] of [
      [24_000, 1001],
      [24, 1],
      [25, 1],
      [30_000, 1001],
      [30, 1],
      [50, 1],
      [60_000, 1001],
      [60, 1],
      [120_000, 1001],
    ] as const)
      // prettier-ignore
      expect((TICKS * den) % num).toBe(0);
  });
});

withFramework('a file that browsers don’t decode', () => {
  let folder: string;
  beforeEach(async () => (folder = await mkdtemp(join(tmpdir(), 'hastig-convert-'))));
  afterEach(() => rm(folder, { recursive: true, force: true }));

  it('becomes one that they do, with as many frames at the same rate, in short groups', async () => {
    const shares: (number | undefined)[] = [];
    const out = join(folder, 'made.mov');
    const { video } = await convertFile(hevc, out, { onProgress: (share) => shares.push(share) });
    expect(video!.codec).toBe('H.265 / HEVC');
    const outcome = await probeFile(out, (await stat(out)).size);
    expect(outcome).toMatchObject({
      facts: { video: { codec: 'avc', width: 320, height: 180, frames: 24, rate: { num: 24, den: 1 }, constantRate: true, longestGroup: 12 } }, // prettier-ignore
    });
    expect(await readdir(folder)).toEqual(['made.mov']);
  });

  // Formats of pictures that not all elements take, as editing programs and cameras write them.
  it.each([
    ['4:4:4 and 24 bits of sound', 'A444_10LE', 'avenc_prores_ks', 'S24LE', 'pcm-s24be', 2 ** -22],
    ['4:2:2 and 16 bits of sound', 'Y42B', 'x264enc', 'S16LE', 'pcm-s16', 2 ** -14],
  ])('with %s keeps every frame, and its sound to the last bit', async (_kind, format, encoder, depth, codec, off) => {
    const [from, out] = [join(folder, 'from.mov'), join(folder, 'made.mov')];
    const made = spawnSync('gst-launch-1.0', ['-q', ...`qtmux name=m ! filesink location=${from} videotestsrc num-buffers=25 ! video/x-raw,width=64,height=48,framerate=25/1 ! videoconvert ! video/x-raw,format=${format} ! ${encoder} ! queue ! m. audiotestsrc num-buffers=50 samplesperbuffer=960 ! audioconvert dithering=none ! audio/x-raw,format=${depth},rate=48000,channels=2 ! queue ! m.`.split(' ')]); // prettier-ignore
    expect(made.status).toBe(0);
    await convertFile(from, out);
    expect(await probeFile(out, (await stat(out)).size)).toMatchObject({
      facts: { video: { frames: 25 }, audio: { codec, channels: 2, sampleRate: 48_000, seconds: 1 } },
    });
    const input = new Input({ source: new FilePathSource(out), formats: ALL_FORMATS });
    const heard: number[] = [];
    for await (const sample of new AudioSampleSink((await input.getPrimaryAudioTrack())!).samples()) {
      const samples = new Float32Array(sample.numberOfFrames);
      sample.copyTo(samples, { planeIndex: 0, format: 'f32-planar' });
      heard.push(...samples);
      sample.close();
    }
    input.dispose();
    // What the framework's source of tests makes: a sine of 440 Hz, four fifths of full level, from its second sample on.
    const misses = heard.map((value, n) => Math.abs(value - 0.8 * Math.sin((2 * Math.PI * 440 * (n + 1)) / 48_000)));
    expect(heard.length).toBe(48_000);
    expect(Math.max(...misses)).toBeLessThan(off);
  });

  it('may be called as one likes: its name is no part of what is asked for', async () => {
    const odd = join(folder, `we"ird 'n! = \\x; $(id) ! filesink location=other.mp4`);
    await copyFile(hevc, odd);
    await convertFile(odd, join(folder, 'ma"de !.mov'));
    expect(await readdir(folder)).toHaveLength(2);
    await expect(convertFile(hevc, join(folder, 'none', 'made.mov'))).rejects.toThrow('The folder isn’t there.');
  });

  it('that is damaged in the middle is told as such, and nothing stands under the new name', async () => {
    const bytes = await readFile(hevc);
    // Of its coded pictures every second stretch of a kilobyte is gone.
    const from = bytes.indexOf('mdat') + 4;
    for (let at = from + 600; at < bytes.length - 1200; at += 1200) bytes.fill(0, at, at + 600);
    const damaged = join(folder, 'damaged.mp4');
    await writeFile(damaged, bytes);
    await expect(convertFile(damaged, join(folder, 'made.mov'))).rejects.toThrow(/damaged|decoded/);
    expect(await readdir(folder)).toEqual(['damaged.mp4']);
  });

  it('that is none, or is not there, is refused', async () => {
    const text = join(folder, 'text.mp4');
    await writeFile(text, 'marbles '.repeat(1000));
    await expect(discover(text)).rejects.toThrow('Nothing in it can be decoded');
    await expect(discover(join(folder, 'none.mp4'))).rejects.toThrow(ConversionFailed);
  });

  it('is left where it is called off, and so is nothing half made', async () => {
    const stop = new AbortController();
    const running = convertFile(hevc, join(folder, 'made.mov'), { signal: stop.signal });
    stop.abort(new Error('called off'));
    await expect(running).rejects.toThrow('called off');
    expect(await readdir(folder)).toEqual([]);
  });
});
