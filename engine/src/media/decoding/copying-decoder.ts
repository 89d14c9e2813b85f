import type { VideoColours } from '@hastig/core';
import { blankFor, copyOfFrame } from './copy-frame';
import { valveOf, type Valve } from './valve';

/** Pictures that a decoder has at once at most: being decoded, held back to be brought into order, or on loan. */
const MOST_INSIDE = 4;
/** Copies that lie ready for whoever reads; no more are made until they are taken. */
const MOST_READY = 3;

type Native = typeof VideoDecoder;

/** What a decoder gives: frames of its own, which it wants back. */
type CopyFrame = (frame: VideoFrame, factor: number, colours: VideoColours | null) => Promise<VideoFrame>;

/**
 * A decoder (WebCodecs, `VideoDecoder`) that gives copies instead of its frames, and is fed only as fast as those are taken:
 * never more than a few frames are on loan from the hardware, in whatever order they come and however long nobody looks.
 *
 * @param native the browser's decoder
 * @param blank what is given in place of a picture that nobody wants to see
 */
export function copyingDecoder(native: Native, copy: CopyFrame = copyOfFrame, blank = blankFor): Native {
  class CopyingDecoder extends EventTarget {
    static isConfigSupported = (config: VideoDecoderConfig): Promise<VideoDecoderSupport> =>
      native.isConfigSupported(config);

    ondequeue: VideoDecoder['ondequeue'] = null;
    private readonly decoder: VideoDecoder;
    private valve: Valve | undefined;
    /** Not fed yet. */
    private held: EncodedVideoChunk[] = [];
    /** Time stamps of what was fed and has not come out. */
    private readonly inside = new Set<number>();
    /** Frames of the decoder's that are not given back yet. */
    private open = 0;
    private copying: Promise<void> = Promise.resolve();
    private onFed: (() => void)[] = [];

    constructor(private readonly init: VideoDecoderInit) {
      super();
      this.decoder = new native({ output: (frame) => this.took(frame), error: init.error });
      this.decoder.addEventListener?.('dequeue', () => this.feed());
    }

    get state(): CodecState {
      return this.decoder.state;
    }

    get decodeQueueSize(): number {
      return this.held.length + this.decoder.decodeQueueSize + this.open;
    }

    configure(config: VideoDecoderConfig): void {
      this.valve = valveOf(config);
      this.valve?.onTaken(() => this.feed());
      this.decoder.configure(config);
    }

    decode(chunk: EncodedVideoChunk): void {
      this.held.push(chunk);
      this.feed();
    }

    async flush(): Promise<void> {
      while (this.held.length > 0 && this.state === 'configured') {
        await new Promise<void>((resolve) => {
          this.onFed.push(resolve);
          this.feed();
        });
      }
      if (this.state === 'configured') await this.decoder.flush();
      await this.copying;
    }

    reset(): void {
      this.drop();
      this.decoder.reset();
    }

    close(): void {
      this.drop();
      if (this.state !== 'closed') this.decoder.close();
    }

    private drop(): void {
      this.held = [];
      this.inside.clear();
      this.fed();
    }

    private fed(): void {
      for (const resolve of this.onFed.splice(0)) resolve();
    }

    // A decoder that has taken all it was given and gives nothing holds pictures back: it wants more, however many it has.
    private get mayFeed(): boolean {
      if ((this.valve?.ready ?? 0) >= MOST_READY) return false;
      const starves = this.decoder.decodeQueueSize === 0 && this.open === 0;
      return starves || this.inside.size + this.open < MOST_INSIDE;
    }

    private feed(): void {
      while (this.held.length > 0 && this.state === 'configured' && this.mayFeed) {
        const chunk = this.held.shift()!;
        this.inside.add(chunk.timestamp);
        this.decoder.decode(chunk);
        this.fed();
      }
    }

    // One after the other: what is copied first is given first.
    private took(frame: VideoFrame): void {
      this.open++;
      // What was to be shown before it and has not come does not come any more: it is damaged.
      for (const timestamp of this.inside) if (timestamp <= frame.timestamp) this.inside.delete(timestamp);
      const { valve } = this;
      this.copying = this.copying.then(async () => {
        try {
          const wanted = valve?.wants(frame.timestamp) ?? true;
          const made = wanted ? await copy(frame, valve?.factor ?? 1, valve?.colours ?? null) : blank(frame);
          if (this.state === 'closed') made.close();
          else {
            valve?.made(frame.timestamp);
            this.init.output(made);
          }
        } catch (error) {
          this.init.error(error as DOMException);
        } finally {
          frame.close();
          this.open--;
          this.feed();
        }
      });
    }
  }
  return CopyingDecoder as unknown as Native;
}

/** Has whoever decodes in this worker get copies from now on. Does nothing where it is so already, or nothing decodes. */
export function installCopyingDecoder(): void {
  const scope = globalThis as unknown as { VideoDecoder?: Native & { copies?: boolean } };
  if (!scope.VideoDecoder || scope.VideoDecoder.copies) return;
  scope.VideoDecoder = Object.assign(copyingDecoder(scope.VideoDecoder), { copies: true });
}
