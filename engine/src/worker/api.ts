import type { MediaFacts, RetimeMap } from '@hastig/contract';
import type { MediaLocation } from '../media/open';
import type { RenderJob, RenderProgress, RenderResult } from '../render/job';
import type { PlayClock } from '../stage/clock';
import type { Punctuality } from '../stage/punctuality';
import type { WantedThumb } from '../thumbs/thumbnailer';
import type { StageEvents } from '../stage/stage-worker';

/**
 * What a worker of the engine does for a page: the messages between them. A worker is started for one purpose
 * (a stage, a render, an inspection), so that none waits for another.
 */
export interface EngineApi {
  stageAttach(canvas: OffscreenCanvas, events: StageEvents): void;
  stageLoad(location: MediaLocation): Promise<MediaFacts>;
  stageSetMap(map: RetimeMap): void;
  stageResize(width: number, height: number): void;
  stageShow(frame: number): Promise<void>;
  stagePreroll(frame: number): Promise<void>;
  stagePlay(clock: PlayClock, loop: boolean): void;
  stageAdjust(clock: PlayClock): void;
  stageStop(): Punctuality;
  stageSound(first: number, count: number, rate: number): Promise<Float32Array[] | null>;
  /** Facts of a file, and whether this browser can decode it; throws RefusedMedia. */
  inspect(location: MediaLocation): Promise<MediaFacts>;
  /** A small picture of one frame, as a blob address' content (JPEG). */
  poster(location: MediaLocation, frame: number, height: number): Promise<Blob>;
  /** Opens a source for small pictures; each is handed to `made` with the frame it was wanted for. */
  thumbsOpen(location: MediaLocation, height: number, made: (frame: number, picture: ImageBitmap) => void): void;
  /** The small pictures wanted now; replaces what was wanted before. */
  thumbsWant(wanted: readonly WantedThumb[]): void;
  render(job: RenderJob, onProgress: (progress: RenderProgress) => void): Promise<RenderResult>;
  cancelRender(): void;
}
