import { framesPerFileFrame } from '@hastig/core';
import { sourceOfLane } from './lane';
import { sameFile, type MediaLocation } from './open';
import { openSource, type OpenSource } from './source';

/** Where the sources of a program are, by their ids. */
export type SourceLocations = Readonly<Record<string, MediaLocation>>;

/** Sources kept open at once; each holds its index, and frames only while they are wanted. */
const MOST_OPEN = 12;

interface Entry {
  location: MediaLocation;
  opening: Promise<OpenSource>;
  open: OpenSource | undefined;
}

const framesPer = ({ fields }: MediaLocation): number => (fields ? framesPerFileFrame(fields) : 1);

// What is open may stay so: the same file, its frames counted alike.
const same = (a: MediaLocation, b: MediaLocation): boolean => sameFile(a, b) && framesPer(a) === framesPer(b);

/**
 * The sources of a program, opened when they are first wanted. Those not used for longest are closed when there are too
 * many; those not in use hold no decoded frames.
 */
export class SourcePool {
  private locations: SourceLocations = {};
  // In the order of their last use.
  private readonly entries = new Map<string, Entry>();

  /** @param budget bytes of decoded pictures that one source in use may keep; the frame server's own unless given */
  constructor(private readonly budget?: number) {}

  /** Says where sources are and how they are taken from now on; those that moved or are gone are closed. */
  async locate(locations: SourceLocations): Promise<void> {
    this.locations = locations;
    const gone = [...this.entries].filter(([id, { location }]) => {
      const now = locations[sourceOfLane(id)];
      return !now || !same(now, location);
    });
    for (const [id, entry] of this.entries) {
      const now = locations[sourceOfLane(id)];
      if (!now || !same(now, entry.location)) continue;
      entry.location = now;
      entry.opening.then(
        (source) => source.take(entry.location),
        () => undefined,
      );
    }
    await Promise.all(gone.map(([id]) => this.drop(id)));
  }

  /**
   * An open source. Whoever gets it does not close it.
   *
   * @param id of a source or of a lane of it, see `laneOf`; so too in what follows
   * @throws RefusedMedia where it cannot be read or decoded; an Error for an id without a place
   */
  get(id: string): Promise<OpenSource> {
    return (this.used(id) ?? this.open(id)).opening;
  }

  /** A source that is open already. */
  ready(id: string): OpenSource | undefined {
    return this.used(id)?.open;
  }

  /**
   * Announces the frames that will be wanted next, by source. Sources that are not named let go of theirs; what is not open
   * yet is opened.
   *
   * @param wanted frames of each source, nearest first
   */
  prefetch(wanted: ReadonlyMap<string, readonly number[]>): void {
    for (const [id, frames] of wanted) {
      const source = this.ready(id);
      if (source) source.frames.prefetch(frames, frames.length > 1 && frames[1]! < frames[0]! ? -1 : 1);
      // A source that cannot be opened is told of when its first frame is due.
      else this.get(id).catch(() => undefined);
    }
    for (const [id, { open }] of this.entries) if (!wanted.has(id)) open?.rest();
  }

  async close(): Promise<void> {
    await Promise.all([...this.entries.keys()].map((id) => this.drop(id)));
  }

  private used(id: string): Entry | undefined {
    const entry = this.entries.get(id);
    if (!entry) return undefined;
    this.entries.delete(id);
    this.entries.set(id, entry);
    return entry;
  }

  private open(id: string): Entry {
    const location = this.locations[sourceOfLane(id)];
    const opening = location
      ? openSource(location, this.budget)
      : Promise.reject<OpenSource>(new Error(`The file of the source ${id} is not known.`));
    const entry: Entry = { location: location ?? { url: '', bytes: 0 }, opening, open: undefined };
    this.entries.set(id, entry);
    opening.then(
      (source) => (entry.open = source),
      // Tried again the next time it is wanted.
      () => this.entries.get(id) === entry && this.entries.delete(id),
    );
    if (this.entries.size > MOST_OPEN) void this.drop(this.entries.keys().next().value!);
    return entry;
  }

  private async drop(id: string): Promise<void> {
    const entry = this.entries.get(id);
    this.entries.delete(id);
    await entry?.opening.then(
      (source) => source.close(),
      () => undefined,
    );
  }
}
