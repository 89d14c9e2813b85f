import {
  formatFacts,
  hasPicture,
  isLossless,
  KEY_INTERVAL,
  picturePlan,
  rateToNumber,
  soundCodingOf,
} from '@hastig/core';
import { NullTarget, Output, type VideoSample, type VideoSampleSource } from 'mediabunny';
import { SourcePool } from '../media/source-pool';
import { MakerPool, makersForDevice } from '../picture/makers/maker-pool';
import { Studio } from '../picture/samples';
import { fileSound, outputFormat } from './formats';
import { GifCoder } from './gif-coder';
import type { RenderJob } from './job';
import { pictureEncoder } from './picture-encoder';
import { RenderPictures } from './pictures';
import { spanOf } from './span';
import { StillCoder } from './still-coder';
import { zippedBytes } from './stills';

/** Where pictures are made to see how long they take, as shares of the length. */
const PLACES = [0.1, 0.5, 0.9];
/**
 * Pictures made at each, and those of them that do not count: they wait for what is opened, and an encoder takes some before it takes
 * time. It finds its pace in so many, too, with how large they become.
 */
const RUN = 48;
const WARM = 12;
/** Milliseconds at each place after which no further picture is made. */
const ENOUGH = 2000;
/** The share of PCM that FLAC takes of sound as it is mixed here; from memory. */
const FLAC_SHARE = 0.6;
/** Bytes of a sample of PCM that FLAC codes. */
const FLAC_BYTES = 3;

/** What a render will come to. */
export interface RenderEstimate {
  /** Seconds of work on this device; undefined where no picture is made. */
  seconds: number | undefined;
  /** Bytes of the file. */
  bytes: number;
}

/** Which pictures are made to find out: all of a short film. */
export function placesOf(count: number): { from: number; to: number }[] {
  if (count <= PLACES.length * RUN) return [{ from: 0, to: count }];
  return PLACES.map((share) => {
    const from = Math.min(count - RUN, Math.round(share * count));
    return { from, to: from + RUN };
  });
}

/** Codes pictures for nothing, and tells how many bytes a file of so many has. */
interface Coder {
  start(): Promise<void>;
  /** @param first whether it is the first of some that follow each other */
  add(sample: VideoSample, first: boolean): Promise<void>;
  bytesOf(pictures: number): Promise<number>;
  close(): Promise<void>;
}

/** How large pictures are that are coded by themselves, and those that tell what changed. */
class FilmCoder implements Coder {
  private readonly sizes = { key: { count: 0, bytes: 0 }, delta: { count: 0, bytes: 0 } };
  private readonly encoder: VideoSampleSource;
  private readonly output: Output;
  private time = 0;

  constructor(private readonly job: RenderJob) {
    this.encoder = pictureEncoder(job, ({ type, byteLength }) => {
      const size = this.sizes[type];
      size.count++;
      size.bytes += byteLength;
    });
    this.output = new Output({ format: outputFormat(job), target: new NullTarget() });
  }

  async start(): Promise<void> {
    this.output.addVideoTrack(this.encoder, { frameRate: rateToNumber(this.job.rate), maximumPacketCount: 2 ** 10 });
    await this.output.start();
  }

  async add(sample: VideoSample, first: boolean): Promise<void> {
    const rate = rateToNumber(this.job.rate);
    sample.setTimestamp(this.time++ / rate);
    sample.setDuration(1 / rate);
    await this.encoder.add(sample, { keyFrame: first });
  }

  async bytesOf(pictures: number): Promise<number> {
    await this.output.finalize();
    const { key, delta } = this.sizes;
    const { rate, keyEvery = KEY_INTERVAL } = this.job;
    const keys = Math.ceil(pictures / Math.max(1, keyEvery * rateToNumber(rate)));
    const mean = ({ bytes, count }: typeof key): number => (count > 0 ? bytes / count : 0);
    return keys * mean(key) + (pictures - keys) * mean(delta.count > 0 ? delta : key);
  }

  async close(): Promise<void> {
    if (this.output.state !== 'finalized') await this.output.cancel().catch(() => undefined);
  }
}

/** Pictures that are all by themselves: so many times what one comes to. */
class SingleCoder implements Coder {
  private bytes = 0;
  private count = 0;

  constructor(private readonly code: (sample: VideoSample) => number | Promise<number>) {}

  async start(): Promise<void> {}

  async add(sample: VideoSample): Promise<void> {
    this.bytes += await this.code(sample);
    this.count++;
  }

  async bytesOf(pictures: number): Promise<number> {
    return (pictures * this.bytes) / Math.max(1, this.count);
  }

  async close(): Promise<void> {}
}

function coderOf(job: RenderJob): Coder {
  const { kind } = formatFacts[job.format];
  if (kind === 'film') return new FilmCoder(job);
  if (kind === 'stills') {
    const stills = new StillCoder(job);
    return new SingleCoder(async (sample) => zippedBytes(await stills.code(sample)));
  }
  const gif = new GifCoder(job);
  return new SingleCoder((sample) => gif.code(sample).length);
}

/** Bytes of the sound of a job. */
function soundBytes(job: RenderJob, seconds: number): number {
  const [coding, sound] = [soundCodingOf(job), fileSound(job)];
  if (!job.sound || !coding || !sound) return 0;
  const samples = seconds * sound.sampleRate * sound.channels;
  if (!isLossless(coding)) return (seconds * (sound.config.bitrate as number)) / 8;
  if (coding === 'flac') return samples * FLAC_BYTES * FLAC_SHARE;
  return samples * (coding === 'pcm-s16' ? 2 : coding === 'pcm-s24' ? 3 : 4);
}

/**
 * How long a render will take on this device, and how large its file will be: from a few pictures that are made and coded for nothing.
 *
 * @throws RefusedMedia and what decoder and encoder throw
 */
export async function estimateRender(job: RenderJob): Promise<RenderEstimate> {
  const { from, to } = spanOf(job);
  const sound = soundBytes(job, (to - from) / rateToNumber(job.program.rate));
  if (!hasPicture(job.format)) return { seconds: undefined, bytes: sound };
  const pool = new SourcePool();
  const studio = new Studio(pool, new MakerPool(makersForDevice()));
  studio.follow(job.program);
  const plan = picturePlan(job.program, job.rate, job.exposure, job.span);
  const coder = coderOf(job);
  try {
    await pool.locate(job.sources);
    await coder.start();
    const begun = performance.now();
    let opened: number | undefined;
    let [took, made] = [0, 0];
    for (const { from: first, to: last } of placesOf(plan.count)) {
      const pictures = new RenderPictures(job, plan, studio);
      const done = [performance.now()];
      for (let n = first; n < last && done.at(-1)! - done[0]! < ENOUGH; n++) {
        const sample = await pictures.get(n);
        await coder.add(sample, n === first);
        sample.close();
        done.push(performance.now());
        opened ??= done[1]! - begun;
      }
      // Where pictures take long, or are few, half of them count.
      const left = Math.min(WARM, Math.floor((done.length - 1) / 2));
      took += done.at(-1)! - done[left]!;
      made += done.length - 1 - left;
      pictures.close();
    }
    const seconds = ((opened ?? 0) + (took / made) * Math.max(0, plan.count - 1)) / 1000;
    return { seconds, bytes: sound + (await coder.bytesOf(plan.count)) };
  } finally {
    await coder.close();
    await studio.close();
  }
}
