import type { Size } from '@hastig/core';
import type { VideoSample } from 'mediabunny';

/** When the frames of a source stand that is counted at an even rate along them. */
export interface FrameTimes {
  /** The file's own frame at a position: the same number where one stands for several positions. */
  frameAt(position: number): number;
  /** Where the frame that is shown at a position begins to stand by its time, in positions and parts of one. */
  placeAt(position: number): number;
}

/** The frames of a source by index: what a stage, a render or a row of small pictures takes them from. */
export interface SourceFrames {
  /** How many there are. */
  readonly frames: number;
  /** A frame that is ready, lent until control goes back to the event loop; do not close it. */
  peek(frame: number): VideoSample | undefined;
  /**
   * A frame, made ready if it must be. The caller closes it.
   *
   * @param frame 0 … frames − 1
   * @param signal takes the wish back; the promise is then refused with its reason
   * @throws what the decoder throws; a RangeError for a frame that does not exist
   */
  get(frame: number, signal?: AbortSignal): Promise<VideoSample>;
  /**
   * Announces the frames that will be wanted next, nearest first, replacing what was announced before.
   *
   * @param direction in which the source is being passed
   * @param passing nobody will turn back to what lies between them, as in play: it need not be kept
   */
  prefetch(frames: readonly number[], direction: 1 | -1, passing?: boolean): void;
  /** The frames that are decoded together with a frame: `start` included, `end` not. */
  group(frame: number): { start: number; end: number };
  /**
   * What its pictures are, wherever they are read: the digest of the file (64 digits) and how it is taken. Undefined where that is
   * not known.
   */
  readonly identity?: string | undefined;
  /** Milliseconds that moving its frames has taken so far, where they are moved. */
  readonly spent?: number;
  /** Where frames come at irregular times: what stands at a position, and since when. */
  readonly times?: FrameTimes;
  /**
   * Says in how many pixels pictures are shown from now on: they may be as many times smaller as they still fill. Null for as
   * large as they are.
   */
  fitTo(fit: Size | null): void;
  /** Lets go of all that was announced and kept, and stays open. Frames asked for with `get` still come. */
  rest(): void;
  /** Stops decoding and frees every frame; waiting calls are refused. */
  close(): Promise<void>;
}
