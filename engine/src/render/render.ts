import { registerAacEncoder } from '@mediabunny/aac-encoder';
import { heldPlan, rateToNumber, soundLength, type PicturePlan } from '@hastig/core';
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
import { openSource, type OpenSource } from '../media/source';
import type { RenderJob, RenderProgress, RenderResult } from './job';
import { Pace } from './pace';
import { openTarget } from './targets';

const SOUND_RATE = 48_000;
/** Output samples encoded at a time. */
const SOUND_PIECE = 24_000;
const SOUND_BITS = 192_000;
/** Samples by which AAC-LC encoders delay their sound; taken off the time stamps, so that sound and picture meet. */
const AAC_DELAY = 1024;
/** Different source frames decoded ahead of the encoder. */
const LOOK_AHEAD = 12;
/**
 * Bytes of decoded pictures kept: less than a stage keeps, for a render mostly goes one way and seldom comes back. A long
 * group passed backwards is decoded again in parts instead.
 */
const FRAME_BUDGET = 72 * 2 ** 20;
/** Seconds between two key frames of the file. */
const KEY_INTERVAL = 2;
const PROGRESS_EVERY = 200;

/** Thrown when a render was cancelled. */
export class RenderCancelled extends Error {
  override readonly name = 'RenderCancelled';
}

let aacReady: Promise<void> | undefined;

function prepareAac(): Promise<void> {
  aacReady ??= canEncodeAudio('aac').then((native) => {
    if (!native) registerAacEncoder();
  });
  return aacReady;
}

/**
 * Renders one retimed clip to an MP4 file (H.264, AAC), streaming: the frame the plan asks for, decoded, encoded,
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
  const source = await openSource(job.location, FRAME_BUDGET);
  try {
    const target = await openTarget(job.target);
    let bytes = 0;
    const stream = new StreamTarget(target.writable, { chunked: true, chunkSize: 2 ** 20 });
    stream.on('write', ({ end }) => (bytes = Math.max(bytes, end)));
    const output = new Output({ format: new Mp4OutputFormat({ fastStart: false }), target: stream });
    try {
      const plan = heldPlan(job.map, job.rate);
      await encode(job, plan, source, output, onProgress, signal);
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
    await source.close();
  }
}

async function encode(
  job: RenderJob,
  plan: PicturePlan,
  source: OpenSource,
  output: Output,
  onProgress: (progress: RenderProgress) => void,
  signal: AbortSignal,
): Promise<void> {
  const rate = rateToNumber(job.rate);
  const { facts } = source.media;
  const sameSize = job.width === facts.video.width && job.height === facts.video.height && facts.video.rotation === 0;
  const picture = new VideoSampleSource({
    codec: 'avc',
    quality: new Quality({ quality: job.quality, preferBitrate: true }),
    keyFrameInterval: KEY_INTERVAL,
    latencyMode: 'quality',
    ...(sameSize ? {} : { transform: { width: job.width, height: job.height, fit: 'contain' } }),
  });
  output.addVideoTrack(picture, { frameRate: rate });
  const sound = job.sound && source.sound ? await addSound(output) : undefined;
  await output.start();
  const pace = new Pace();
  let reported = 0;
  const soundSamples = Math.min(soundLength(job.map, SOUND_RATE), Math.round((plan.count / rate) * SOUND_RATE));
  let soundDone = 0;
  const soundUpTo = async (sample: number): Promise<void> => {
    while (sound && source.sound && soundDone < Math.min(sample, soundSamples)) {
      const count = Math.min(SOUND_PIECE, soundSamples - soundDone);
      const channels = await source.sound.read(job.map, soundDone, count, SOUND_RATE);
      await addPiece(sound, channels.slice(0, 2), soundDone);
      soundDone += count;
    }
  };
  for (let n = 0; n < plan.count; n++) {
    if (signal.aborted) throw new RenderCancelled('The render was cancelled.');
    source.frames.prefetch(
      framesFrom(plan, n),
      plan.frameAt(n) <= plan.frameAt(Math.min(n + 4, plan.count - 1)) ? 1 : -1,
    );
    const sample = await source.frames.get(plan.frameAt(n));
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

function framesFrom(plan: PicturePlan, n: number): number[] {
  const frames = new Set<number>();
  for (let next = n; next < plan.count && next < n + 4 * LOOK_AHEAD && frames.size < LOOK_AHEAD; next++) {
    frames.add(plan.frameAt(next));
  }
  return [...frames];
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
