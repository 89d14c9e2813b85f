import { proxy } from 'comlink';
import { samePictures } from '../media/location';
import type { SourceLocations } from '../media/source-pool';
import { startWorker, type EngineHandle } from '../worker/handle';
import type { WantedThumb } from './thumbnailer';

/** Pictures kept; a screen shows some fifty, a timeline with its overview more. */
const MOST_KEPT = 600;
/** Times a worker is started anew; one that breaks down more often will go on doing so. */
const MOST_BREAKDOWNS = 3;
/** Milliseconds that wishes are gathered while zooming and panning. */
const GATHER = 60;

/** Small pictures of a project's sources, made as they are wanted. */
export class Thumbs {
  private handle: EngineHandle;
  private breakdowns = 0;
  private missing: readonly WantedThumb[] = [];
  private readonly kept = new Map<string, Map<number, ImageBitmap>>();
  private order: { sourceId: string; frame: number }[] = [];
  private opened: Promise<void>;
  private closed = false;
  private sources: SourceLocations = {};
  private timer: ReturnType<typeof setTimeout> | undefined;

  /**
   * @param height of the pictures in pixels
   * @param changed called when there are more of them
   */
  constructor(
    private readonly height: number,
    private readonly changed: () => void,
  ) {
    this.handle = startWorker();
    this.opened = this.open();
  }

  private open(): Promise<void> {
    const { handle } = this;
    handle.onBreakdown(() => this.broke(handle));
    const made = (sourceId: string, frame: number, picture: ImageBitmap): void => {
      this.keep(sourceId, frame, picture);
      this.changed();
    };
    return handle.api.thumbsOpen(this.height, proxy(made));
  }

  // Another worker goes on with what is wanted; small pictures are no matter to tell of, only to do without.
  private broke(handle: EngineHandle): void {
    handle.end();
    if (this.closed || handle !== this.handle || ++this.breakdowns > MOST_BREAKDOWNS) return;
    this.handle = startWorker();
    this.opened = this.open();
    this.locate(this.sources);
    this.want(this.missing);
  }

  /** Says where the sources are from now on. Pictures of those that are other files now, or taken otherwise, are gone. */
  locate(sources: SourceLocations): void {
    for (const sourceId of this.kept.keys()) {
      if (!samePictures(this.sources[sourceId], sources[sourceId])) this.forget(sourceId);
    }
    this.sources = sources;
    void this.opened.then(() => this.handle.api.thumbsLocate(sources));
  }

  /** The picture of a frame, or for the time being of the nearest one within `reach` frames. */
  get(sourceId: string, frame: number, reach: number): ImageBitmap | undefined {
    const pictures = this.kept.get(sourceId);
    const exact = pictures?.get(frame);
    if (exact || !pictures) return exact;
    let nearest: ImageBitmap | undefined;
    let least = reach;
    for (const [other, picture] of pictures) {
      const far = Math.abs(other - frame);
      if (far <= least) [nearest, least] = [picture, far];
    }
    return nearest;
  }

  /** Whether all of some pictures are here. */
  has(wanted: readonly Pick<WantedThumb, 'sourceId' | 'frame'>[]): boolean {
    return wanted.every(({ sourceId, frame }) => this.kept.get(sourceId)?.has(frame));
  }

  /** The pictures that are wanted now, the most wanted first; replaces what was wanted before. */
  want(wanted: readonly WantedThumb[]): void {
    clearTimeout(this.timer);
    const missing = (this.missing = wanted.filter(({ sourceId, frame }) => !this.kept.get(sourceId)?.has(frame)));
    this.timer = setTimeout(() => void this.opened.then(() => this.handle.api.thumbsWant(missing)), GATHER);
  }

  /** Says whether something plays, which comes first. */
  whilePlaying(playing: boolean): void {
    void this.opened.then(() => this.handle.api.thumbsWhilePlaying(playing));
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.timer);
    this.handle.end();
    for (const pictures of this.kept.values()) for (const picture of pictures.values()) picture.close();
    this.kept.clear();
  }

  private forget(sourceId: string): void {
    for (const picture of this.kept.get(sourceId)?.values() ?? []) picture.close();
    this.kept.delete(sourceId);
    this.order = this.order.filter((one) => one.sourceId !== sourceId);
  }

  private keep(sourceId: string, frame: number, picture: ImageBitmap): void {
    const pictures = this.kept.get(sourceId) ?? new Map<number, ImageBitmap>();
    this.kept.set(sourceId, pictures);
    if (pictures.has(frame)) {
      picture.close();
      return;
    }
    pictures.set(frame, picture);
    this.order.push({ sourceId, frame });
    if (this.order.length <= MOST_KEPT) return;
    const oldest = this.order.shift()!;
    this.kept.get(oldest.sourceId)?.get(oldest.frame)?.close();
    this.kept.get(oldest.sourceId)?.delete(oldest.frame);
  }
}
