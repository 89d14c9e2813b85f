import { execFile, spawnSync } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { scratch } from './files';

// A reader that is not ours: GStreamer, the general media framework that Debian carries.
const run = promisify(execFile);

/** Whether it is there: where nothing may be installed, what it would read is not read by it. */
export const hasFramework = spawnSync('gst-discoverer-1.0', ['--help'], { stdio: 'ignore' }).status === 0;

/** Whether there is Python, whose own readers of ZIP and CSV are others than ours. */
export const hasPython = spawnSync('python3', ['--version'], { stdio: 'ignore' }).status === 0;

/** What the framework tells of a file. */
interface Discovered {
  container: string | undefined;
  video: { codec: string; width: number; height: number; rate: string } | undefined;
  audio: { codec: string; sampleRate: number; channels: number } | undefined;
  seconds: number;
  text: string;
}

/** What a file is, as the framework tells. */
export async function discover(file: string): Promise<Discovered> {
  const { stdout: text } = await run('gst-discoverer-1.0', ['-v', file], { maxBuffer: 2 ** 24 });
  const value = (name: string): string | undefined => new RegExp(`^\\s*${name}: (.*)$`, 'm').exec(text)?.[1]?.trim();
  const [hours, minutes, seconds] = value('Duration')!.split(':').map(Number);
  const [video, audio] = [value('video codec'), value('audio codec')];
  return {
    container: value('container format'),
    video: video === undefined ? undefined : { codec: video, width: Number(value('Width')), height: Number(value('Height')), rate: value('Frame rate')! }, // prettier-ignore
    audio: audio === undefined ? undefined : { codec: audio, sampleRate: Number(value('Sample rate')), channels: Number(value('Channels')?.split(' ')[0]) }, // prettier-ignore
    seconds: hours! * 3600 + minutes! * 60 + seconds!,
    text,
  };
}

/** Milliseconds in which a small file is read. */
const READ = 60_000;

async function decoded(file: string, ...steps: string[]): Promise<Buffer> {
  const out = join(await scratch(), 'raw');
  await run('gst-launch-1.0', ['-q', 'filesrc', `location=${file}`, '!', 'decodebin', ...steps, '!', 'filesink', `location=${out}`], { timeout: READ }); // prettier-ignore
  return readFile(out);
}

/** All pictures of a file in grey, each `width` times `height` bytes. */
export async function greyPictures(file: string, width: number, height: number): Promise<Buffer[]> {
  const all = await decoded(file, '!', 'videoconvert', '!', `video/x-raw,format=GRAY8,width=${width},height=${height}`);
  // Rows are padded to four bytes.
  const row = 4 * Math.ceil(width / 4);
  return Array.from({ length: all.length / (row * height) }, (_, n) => {
    const picture = all.subarray(n * row * height, (n + 1) * row * height);
    if (row === width) return picture;
    return Buffer.concat(Array.from({ length: height }, (_row, y) => picture.subarray(y * row, y * row + width)));
  });
}

/** All sound of a file, at a rate, one channel after the other. */
export async function soundOf(file: string, sampleRate: number, channels: number): Promise<Float32Array[]> {
  const caps = `audio/x-raw,format=F32LE,rate=${sampleRate},channels=${channels},layout=interleaved`;
  // Pictures that nothing takes it decodes all the same, and then waits for them for ever, now and then.
  const alone = ['expose-all-streams=false', 'caps=audio/x-raw'];
  const all = await decoded(file, ...alone, '!', 'audioconvert', '!', 'audioresample', '!', caps);
  const samples = new Float32Array(all.buffer.slice(all.byteOffset, all.byteOffset + all.length));
  return Array.from({ length: channels }, (_, channel) =>
    Float32Array.from({ length: samples.length / channels }, (_sample, n) => samples[n * channels + channel]!),
  );
}
