import {
  framesOf,
  isSeenFrame,
  isSeenSum,
  leafFrames,
  leavesOf,
  samePicture,
  singleLeaf,
  type PicturePlan,
  type SeenLeaf,
  type SeenPicture,
} from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import { fileColours, inColours, type FileColours } from '../picture/file-colours';
import { framesByDecoder, decodersOf, type DecoderFrame } from '../picture/decoders';
import { parcelOf, sampleOf } from '../picture/makers/parcel';
import { PictureSamples, type Studio } from '../picture/samples';
import type { RenderJob } from './job';

/** Different source frames decoded ahead of the encoder, and the pictures in which they are looked for. */
const LOOK_AHEAD = 12;
const PICTURES_AHEAD = 4 * LOOK_AHEAD;

/** Frames of one source in an exposure up to which the next exposure is begun beside it. */
const FEW = 4;

/** Whether any exposure of a picture consists of many frames of a source; of copies of other moments, each by itself. */
const passesMany = (picture: SeenPicture): boolean => leavesOf(picture).some(isMany);

const isMany = (leaf: SeenLeaf): boolean =>
  isSeenSum(leaf)
    ? leaf.sum.some((part) => isMany(part.leaf))
    : new Set(leafFrames(leaf).map(({ frame }) => frame)).size > FEW;

/**
 * The pictures of a file, one after the other. A source's frame that has the file's size and colours already goes to the
 * encoder as the decoder gave it; what must be scaled, turned or laid over something is drawn, and brought to the file's
 * colours here: an encoder that is given both would write each in its own.
 */
export class RenderPictures {
  private colours: Promise<FileColours> | undefined;
  private readonly begun = new Map<number, Promise<VideoSample>>();
  /** Something had to be made; until then one picture after the other does. */
  private making = false;

  constructor(
    private readonly job: Pick<RenderJob, 'program' | 'width' | 'height' | 'fit' | 'fullRange'>,
    private readonly plan: PicturePlan,
    private readonly studio: Studio,
  ) {}

  /**
   * Picture `n`, without a time; they are asked for in order. Where pictures are made, the next ones are begun meanwhile. The caller
   * closes it.
   *
   * @throws RefusedMedia and what the decoder throws
   */
  get(n: number): Promise<VideoSample> {
    const mine = this.take(n);
    const last = this.making ? Math.min(n + this.studio.makers.width, this.plan.count) : 0;
    for (let next = n + 1; next < last; next++) {
      if (this.begun.has(next)) continue;
      // One decoder passes long exposures one after the other, and their frames are added while it goes on.
      if (passesMany(this.plan.at(next))) break;
      this.begin(next);
    }
    return mine;
  }

  /** Lets go of what was begun and is not wanted any more. */
  close(): void {
    for (const made of this.begun.values())
      made.then(
        (sample) => sample.close(),
        () => undefined,
      );
    this.begun.clear();
  }

  private take(n: number): Promise<VideoSample> {
    const begun = this.begun.get(n) ?? this.make(n);
    this.begun.delete(n);
    return begun;
  }

  private begin(n: number): void {
    const made = this.make(n);
    // Whoever takes it hears of it.
    made.catch(() => undefined);
    this.begun.set(n, made);
  }

  private async make(n: number): Promise<VideoSample> {
    const { studio, job } = this;
    const picture = this.plan.at(n);
    const single = singleLeaf(picture);
    this.making ||= !single || !isSeenFrame(single) || single.share !== undefined;
    studio.pool.prefetch(this.ahead(n, picture), true);
    this.colours ??= this.firstColours();
    const colours = await this.colours;
    const samples = await PictureSamples.of(studio, picture, 'exact');
    try {
      const sample = single && samples.get(single);
      const { program, width, height } = job;
      const { sizes } = program;
      // What is shown by itself is a frame of its own.
      const frame = program.frame ?? (sample && { width: sample.displayWidth, height: sample.displayHeight });
      const shaped = !frame || Math.abs(frame.width * height - frame.height * width) < Math.max(width, height);
      const scaled = job.fit === 'crop' && frame?.width !== width;
      const fit = shaped && !scaled ? undefined : (job.fit ?? 'fit');
      if (sample && !fit && this.fits(sample) && inColours(sample.colorSpace, colours)) return sample.clone();
      this.making = true;
      const order = {
        ...{ picture, size: { width, height }, colours },
        sizes: { sizes, ...(frame && (fit || program.frame) && { frame }) },
        ...(fit && { fit }),
      };
      const made = await studio.makers.with((makes) =>
        makes.draw(
          order,
          leavesOf(picture).map((leaf) => parcelOf(samples.get(leaf))),
        ),
      );
      return sampleOf(made);
    } finally {
      samples.close();
    }
  }

  // Those of the first picture there is, which black before it has to be in too.
  private async firstColours(): Promise<FileColours> {
    for (let n = 0; n < this.plan.count; n++) {
      const [seen] = framesOf(this.plan.at(n));
      if (!seen) continue;
      const sample = await (await this.studio.pool.get(seen.sourceId)).exact.get(seen.frame);
      const { colorSpace } = sample;
      sample.close();
      return fileColours(colorSpace, this.job.fullRange);
    }
    return fileColours(undefined, this.job.fullRange);
  }

  private fits({ displayWidth, displayHeight, visibleRect, rotation, format }: VideoSample): boolean {
    const { width, height } = this.job;
    // Pixels that are not square are drawn: what is encoded as it is keeps as many as it was stored with.
    const square = visibleRect.width === displayWidth && visibleRect.height === displayHeight;
    const eightBit = !/P1[02]$|^RGB|^BGR/.test(format ?? '');
    return displayWidth === width && displayHeight === height && square && rotation === 0 && eightBit;
  }

  /** The next different source frames, by the decoders they are taken from. */
  private ahead(n: number, now: SeenPicture): Map<string, number[]> {
    const pictures: DecoderFrame[][] = [];
    let frames = 0;
    const add = (picture: SeenPicture): void => {
      // A long exposure sees to its own frames.
      const decoders = decodersOf(picture).slice(0, LOOK_AHEAD);
      frames += Math.max(1, decoders.length);
      pictures.push(decoders);
    };
    add(now);
    let last = now;
    for (let next = n + 1; next < this.plan.count && next < n + PICTURES_AHEAD && frames < LOOK_AHEAD; next++) {
      const picture = this.plan.at(next);
      if (!samePicture(picture, last)) add(picture);
      last = picture;
    }
    return framesByDecoder(pictures);
  }
}
