import { proxy } from 'comlink';
import type { MediaLocation } from '../media/open';
import { startWorker, type EngineHandle } from '../worker/handle';
import type { WantedThumb } from './thumbnailer';

/** Pictures kept; a screen shows some fifty. */
const MOST_KEPT = 400;
/** Milliseconds that wishes are gathered while zooming and panning. */
const GATHER = 60;

/** Small pictures of one source, made as they are wanted. */
export class Thumbs {
  private readonly handle: EngineHandle = startWorker();
  private readonly kept = new Map<number, ImageBitmap>();
  private readonly opened: Promise<void>;
  private timer: ReturnType<typeof setTimeout> | undefined;

  /**
   * @param height of the pictures in pixels
   * @param changed called when there are more of them
   */
  constructor(location: MediaLocation, height: number, changed: () => void) {
    const made = (frame: number, picture: ImageBitmap): void => {
      this.kept.delete(frame);
      this.kept.set(frame, picture);
      if (this.kept.size > MOST_KEPT) {
        const [oldest] = this.kept.keys();
        this.kept.get(oldest!)!.close();
        this.kept.delete(oldest!);
      }
      changed();
    };
    this.opened = this.handle.api.thumbsOpen(location, height, proxy(made));
  }

  /** The picture of a frame, or for the time being of the nearest one within `reach` frames. */
  get(frame: number, reach: number): ImageBitmap | undefined {
    const exact = this.kept.get(frame);
    if (exact) return exact;
    let nearest: ImageBitmap | undefined;
    let least = reach;
    for (const [other, picture] of this.kept) {
      const far = Math.abs(other - frame);
      if (far <= least) [nearest, least] = [picture, far];
    }
    return nearest;
  }

  /** The pictures that are wanted now, the most wanted first; replaces what was wanted before. */
  want(wanted: readonly WantedThumb[]): void {
    clearTimeout(this.timer);
    const missing = wanted.filter(({ frame }) => !this.kept.has(frame));
    this.timer = setTimeout(() => void this.opened.then(() => this.handle.api.thumbsWant(missing)), GATHER);
  }

  close(): void {
    clearTimeout(this.timer);
    this.handle.end();
    for (const picture of this.kept.values()) picture.close();
    this.kept.clear();
  }
}
