import { framesPerFileFrame, type Size } from '@hastig/core';
import { KeptOpen, type Held } from './kept-open';
import { sourceOfDecoder } from './decoder-id';
import { sameColours, sameCounting, sameFile, type MediaLocation } from './location';
import { bytesForDevice, PictureBudget } from './picture-budget';
import { openSource, type OpenSource } from './source';

/** Where the sources of a program are, by their ids. */
export type SourceLocations = Readonly<Record<string, MediaLocation>>;

/** Sources kept open at once; each holds its index, and frames only while they are wanted. */
const MOST_OPEN = 12;

const framesPer = ({ fields }: MediaLocation): number => (fields ? framesPerFileFrame(fields) : 1);

// What is open may stay so: the same file, its frames counted alike.
const same = (a: MediaLocation, b: MediaLocation): boolean =>
  sameFile(a, b) &&
  framesPer(a) === framesPer(b) &&
  sameCounting(a, b) &&
  sameColours(a, b) &&
  a.soundTrack === b.soundTrack;

/**
 * The sources of a program, opened when they are first wanted. Those not used for longest are closed when there are too
 * many; those not in use hold no decoded frames.
 */
export class SourcePool {
  private locations: SourceLocations = {};
  private readonly sources = new KeptOpen<string, OpenSource>(MOST_OPEN);

  private readonly budget: PictureBudget;
  private fitOf: (sourceId: string) => Size | null = () => null;

  /** @param bytes of decoded pictures that all sources together may keep */
  constructor(bytes = bytesForDevice()) {
    this.budget = new PictureBudget(bytes);
  }

  /** Says in how many pixels each source's pictures are shown, see `SourceFrames.fitTo`. */
  fitTo(fitOf: (sourceId: string) => Size | null): void {
    this.fitOf = fitOf;
    for (const [id, { open }] of this.sources.all()) open?.fitTo(fitOf(sourceOfDecoder(id)));
  }

  /** Says where sources are and how they are taken from now on; those that moved or are gone are closed. */
  async locate(locations: SourceLocations): Promise<void> {
    const before = this.locations;
    this.locations = locations;
    const closing: Promise<void>[] = [];
    for (const [id, { opening }] of this.sources.all()) {
      const [was, now] = [before[sourceOfDecoder(id)], locations[sourceOfDecoder(id)]];
      if (!was || !now || !same(was, now)) closing.push(this.sources.close(id));
      else
        opening.then(
          // It may take long to open; by then it may have moved again.
          (source) => source.take(this.locations[sourceOfDecoder(id)] ?? now),
          () => undefined,
        );
    }
    await Promise.all(closing);
  }

  /**
   * An open source. Whoever gets it does not close it.
   *
   * @param id of a source or of a decoder of it, see `decoderOf`; so too in what follows
   * @throws RefusedMedia where it cannot be read or decoded; an Error for an id without a place
   */
  get(id: string): Promise<OpenSource> {
    return (this.sources.use(id) ?? this.open(id)).opening;
  }

  /** A source that is open already. */
  ready(id: string): OpenSource | undefined {
    return this.sources.use(id)?.open;
  }

  /**
   * Announces the frames that will be wanted next, by source. Sources that are not named let go of theirs; what is not open
   * yet is opened.
   *
   * @param wanted frames of each source, nearest first
   * @param passing nobody will turn back to what lies between them
   */
  prefetch(wanted: ReadonlyMap<string, readonly number[]>, passing = false): void {
    for (const [id, frames] of wanted) {
      const source = this.ready(id);
      if (source) source.frames.prefetch(frames, frames.length > 1 && frames[1]! < frames[0]! ? -1 : 1, passing);
      // A source that cannot be opened is told of when its first frame is due.
      else this.get(id).catch(() => undefined);
    }
    for (const [id, { open }] of this.sources.all()) if (!wanted.has(id)) open?.rest();
  }

  async close(): Promise<void> {
    await this.sources.closeAll();
  }

  private open(id: string): Held<OpenSource> {
    const location = this.locations[sourceOfDecoder(id)];
    return this.sources.add(
      id,
      location
        ? openSource(location, this.budget).then((source) => {
            source.fitTo(this.fitOf(sourceOfDecoder(id)));
            return source;
          })
        : Promise.reject<OpenSource>(new Error(`Source ${id} has no known file.`)),
    );
  }
}
