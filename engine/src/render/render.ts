import { picturePlan, rateToNumber, type PicturePlan } from '@hastig/core';
import { AudioSampleSource, Output, StreamTarget } from 'mediabunny';
import { ProgramSound } from '../media/program-sound';
import { SourcePool } from '../media/source-pool';
import { MakerPool, makersForDevice } from '../picture/makers/maker-pool';
import { Studio } from '../picture/samples';
import { codings, outputFormat, prepareSound } from './formats';
import type { RenderJob, RenderProgress, RenderResult } from './job';
import { Throughput } from './throughput';
import { pictureEncoder } from './picture-encoder';
import { RenderPictures } from './pictures';
import { SOUND_RATE, SoundFeed } from './sound-feed';
import type { SoundSide } from './sound-side';
import { openTarget } from './targets';

/**
 * Bytes of decoded pictures kept: less than a stage keeps, for a render mostly goes one way and seldom comes back. A long
 * group passed backwards is decoded again in parts instead.
 */
const FRAME_BUDGET = 72 * 2 ** 20;
const PROGRESS_EVERY = 200;
/** Frames of the program between two looks at how far the sound of a file without picture is. */
const SOUND_FRAMES = 10;

/** Pieces of half a second that another worker may be ahead of the pictures with its sound. */
const PIECES_AHEAD = 6;

/** What a file is made of: its sources, its sound, and how far that may be ahead. */
interface Made {
  studio: Studio;
  side: SoundSide;
  ahead: number;
}

/** Thrown when a render was cancelled. */
class RenderCancelled extends Error {
  override readonly name = 'RenderCancelled';
}

/** Says how far a render is, now and then, and ends it where it is called off. */
class Told {
  private readonly speed = new Throughput();
  private reported = 0;

  constructor(
    private readonly total: number,
    private readonly onProgress: (progress: RenderProgress) => void,
    private readonly signal: AbortSignal,
  ) {}

  done(done: number): void {
    if (this.signal.aborted) throw new RenderCancelled('The render was cancelled.');
    const now = performance.now();
    if (now - this.reported < PROGRESS_EVERY) return;
    this.reported = now;
    const { total } = this;
    const framesPerSecond = this.speed.mark(done, now);
    this.onProgress({
      done,
      total,
      framesPerSecond,
      secondsLeft: framesPerSecond > 0 ? (total - done) / framesPerSecond : Infinity,
    });
  }

  all(): void {
    const { total } = this;
    this.onProgress({ done: total, total, framesPerSecond: this.speed.mark(total, performance.now()), secondsLeft: 0 });
  }
}

/**
 * Renders a program to an MP4 (H.264, AAC) or WebM file (VP9, Opus), or its sound alone to a WAVE file (24 bit), streaming: what the
 * plan asks for, decoded, encoded, written, one after the other. Nothing stands under the file's name unless all of it is there.
 *
 * @param sound of the program, where another worker makes it; it is made here otherwise
 * @throws RenderCancelled when `signal` is aborted; RefusedMedia and what decoder, encoder or storage throw
 */
export async function render(
  job: RenderJob,
  onProgress: (progress: RenderProgress) => void,
  signal: AbortSignal,
  sound?: SoundSide,
): Promise<RenderResult> {
  const started = performance.now();
  const pool = new SourcePool(FRAME_BUDGET);
  const studio = new Studio(pool, new MakerPool(makersForDevice()));
  studio.follow(job.program);
  await pool.locate(job.sources);
  try {
    const target = await openTarget(job.target);
    let bytes = 0;
    const stream = new StreamTarget(target.writable, { chunked: true, chunkSize: 2 ** 20 });
    stream.on('write', ({ end }) => (bytes = Math.max(bytes, end)));
    const output = new Output({ format: outputFormat(job), target: stream });
    try {
      const plan = picturePlan(job.program, job.rate, job.exposure);
      const encode = codings[job.format].picture ? encodePicture : encodeSound;
      const told = new Told(plan.count, onProgress, signal);
      const made: Made = sound
        ? { studio, side: sound, ahead: PIECES_AHEAD }
        : { studio, side: new ProgramSound(job.program, pool), ahead: 0 };
      await encode(job, plan, made, output, (done) => told.done(done));
      await output.finalize();
      told.all();
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
    await studio.close();
  }
}

async function encodePicture(
  job: RenderJob,
  plan: PicturePlan,
  { studio, side, ahead }: Made,
  output: Output,
  onFrame: (done: number) => void,
): Promise<void> {
  const rate = rateToNumber(job.rate);
  const pictures = new RenderPictures(job, plan, studio);
  const { picture: codec, sound: coding } = codings[job.format];
  const picture = pictureEncoder(codec!, job.quality);
  output.addVideoTrack(picture, { frameRate: rate });
  const samples = Math.round((plan.count / rate) * SOUND_RATE);
  let sound: SoundFeed | undefined;
  if (job.sound && (await side.audible())) {
    await prepareSound(coding);
    const { delay, ...how } = coding;
    const track = new AudioSampleSource(how);
    output.addAudioTrack(track);
    sound = new SoundFeed(track, side, { samples, delay, ahead });
  }
  await output.start();
  try {
    for (let n = 0; n < plan.count; n++) {
      const sample = await pictures.get(n);
      sample.setTimestamp(n / rate);
      sample.setDuration(1 / rate);
      try {
        await picture.add(sample);
      } finally {
        sample.close();
      }
      await sound?.upTo(Math.round((n / rate) * SOUND_RATE));
      onFrame(n + 1);
    }
  } finally {
    pictures.close();
  }
  await sound?.upTo(samples);
}

// What is read of the sound between two words of progress is as long as some frames of the program.
async function encodeSound(
  { format, program }: RenderJob,
  plan: PicturePlan,
  { side, ahead }: Made,
  output: Output,
  onFrame: (done: number) => void,
): Promise<void> {
  const samples = Math.round((program.length / rateToNumber(program.rate)) * SOUND_RATE);
  const { delay, ...how } = codings[format].sound;
  const track = new AudioSampleSource(how);
  output.addAudioTrack(track);
  const sound = new SoundFeed(track, side, { samples, delay, ahead });
  await output.start();
  for (let n = SOUND_FRAMES; n < plan.count + SOUND_FRAMES; n += SOUND_FRAMES) {
    const done = Math.min(n, plan.count);
    await sound.upTo(Math.round((done / plan.count) * samples));
    onFrame(done);
  }
}
