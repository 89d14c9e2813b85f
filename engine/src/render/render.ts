import { picturePlan, rateToNumber, type PicturePlan } from '@hastig/core';
import {
  AudioSample,
  AudioSampleSource,
  canEncodeAudio,
  Mp4OutputFormat,
  Output,
  Quality,
  StreamTarget,
  VideoSampleSource,
} from 'mediabunny';
import { ProgramSound } from '../media/program-sound';
import { SourcePool } from '../media/source-pool';
import type { RenderJob, RenderProgress, RenderResult } from './job';
import { Pace } from './pace';
import { RenderPictures } from './pictures';
import { openTarget } from './targets';

const SOUND_RATE = 48_000;
/** Output samples encoded at a time. */
const SOUND_PIECE = 24_000;
const SOUND_BITS = 192_000;
/** Samples by which AAC-LC encoders delay their sound; taken off the time stamps, so that sound and picture meet. */
const AAC_DELAY = 1024;
/**
 * Bytes of decoded pictures kept: less than a stage keeps, for a render mostly goes one way and seldom comes back. A long
 * group passed backwards is decoded again in parts instead.
 */
const FRAME_BUDGET = 72 * 2 ** 20;
/** Seconds between two key frames of the file. */
const KEY_INTERVAL = 2;
const PROGRESS_EVERY = 200;

/** Thrown when a render was cancelled. */
class RenderCancelled extends Error {
  override readonly name = 'RenderCancelled';
}

let aacReady: Promise<void> | undefined;

function prepareAac(): Promise<void> {
  aacReady ??= canEncodeAudio('aac').then(async (native) => {
    // Most of the worker's code would be this encoder, and only a render needs it.
    if (!native) (await import('@mediabunny/aac-encoder')).registerAacEncoder();
  });
  return aacReady;
}

/**
 * Renders a program to an MP4 file (H.264, AAC), streaming: the frame the plan asks for, decoded, encoded,
 * written, one after the other. Nothing stands under the file's name unless all of it is there.
 *
 * @throws RenderCancelled when `signal` is aborted; RefusedMedia and what decoder, encoder or storage throw
 */
export async function render(
  job: RenderJob,
  onProgress: (progress: RenderProgress) => void,
  signal: AbortSignal,
): Promise<RenderResult> {
  const started = performance.now();
  const pool = new SourcePool(FRAME_BUDGET);
  await pool.locate(job.sources);
  try {
    const target = await openTarget(job.target);
    let bytes = 0;
    const stream = new StreamTarget(target.writable, { chunked: true, chunkSize: 2 ** 20 });
    stream.on('write', ({ end }) => (bytes = Math.max(bytes, end)));
    const output = new Output({ format: new Mp4OutputFormat({ fastStart: false }), target: stream });
    try {
      const plan = picturePlan(job.program, job.rate);
      await encode(job, plan, pool, output, onProgress, signal);
      const name = await target.commit();
      return {
        name,
        frames: plan.count,
        seconds: plan.count / rateToNumber(job.rate),
        bytes,
        took: (performance.now() - started) / 1000,
      };
    } catch (error) {
      if (output.state !== 'finalized' && output.state !== 'canceled') await output.cancel().catch(() => undefined);
      await target.discard().catch(() => undefined);
      throw signal.aborted ? new RenderCancelled('The render was cancelled.') : error;
    }
  } finally {
    await pool.close();
  }
}

async function encode(
  job: RenderJob,
  plan: PicturePlan,
  pool: SourcePool,
  output: Output,
  onProgress: (progress: RenderProgress) => void,
  signal: AbortSignal,
): Promise<void> {
  const rate = rateToNumber(job.rate);
  const pictures = new RenderPictures(job, plan, pool);
  const programSound = new ProgramSound(job.program, pool);
  const picture = new VideoSampleSource({
    codec: 'avc',
    quality: new Quality({ quality: job.quality, preferBitrate: true }),
    keyFrameInterval: KEY_INTERVAL,
    latencyMode: 'quality',
  });
  output.addVideoTrack(picture, { frameRate: rate });
  const sound = job.sound && (await programSound.audible()) ? await addSound(output) : undefined;
  await output.start();
  const pace = new Pace();
  let reported = 0;
  const soundSamples = Math.round((plan.count / rate) * SOUND_RATE);
  let soundDone = 0;
  const soundUpTo = async (sample: number): Promise<void> => {
    while (sound && soundDone < Math.min(sample, soundSamples)) {
      const count = Math.min(SOUND_PIECE, soundSamples - soundDone);
      const channels = await programSound.read(soundDone, count, SOUND_RATE);
      await addPiece(sound, channels ?? [new Float32Array(count), new Float32Array(count)], soundDone);
      soundDone += count;
    }
  };
  for (let n = 0; n < plan.count; n++) {
    if (signal.aborted) throw new RenderCancelled('The render was cancelled.');
    const sample = await pictures.get(n);
    sample.setTimestamp(n / rate);
    sample.setDuration(1 / rate);
    try {
      await picture.add(sample);
    } finally {
      sample.close();
    }
    await soundUpTo(Math.round((n / rate) * SOUND_RATE));
    const now = performance.now();
    if (now - reported >= PROGRESS_EVERY) {
      reported = now;
      const framesPerSecond = pace.mark(n + 1, now);
      const left = framesPerSecond > 0 ? (plan.count - n - 1) / framesPerSecond : Infinity;
      onProgress({ done: n + 1, total: plan.count, pace: framesPerSecond, left });
    }
  }
  await soundUpTo(soundSamples);
  await output.finalize();
  onProgress({ done: plan.count, total: plan.count, pace: pace.mark(plan.count, performance.now()), left: 0 });
}

async function addSound(output: Output): Promise<AudioSampleSource> {
  await prepareAac();
  const sound = new AudioSampleSource({ codec: 'aac', bitrate: SOUND_BITS });
  output.addAudioTrack(sound);
  return sound;
}

async function addPiece(sound: AudioSampleSource, channels: readonly Float32Array[], first: number): Promise<void> {
  const count = channels[0]!.length;
  const data = new Float32Array(count * channels.length);
  channels.forEach((channel, index) => data.set(channel, index * count));
  const sample = new AudioSample({
    data,
    format: 'f32-planar',
    numberOfChannels: channels.length,
    sampleRate: SOUND_RATE,
    timestamp: (first - AAC_DELAY) / SOUND_RATE,
  });
  try {
    await sound.add(sample);
  } finally {
    sample.close();
  }
}
