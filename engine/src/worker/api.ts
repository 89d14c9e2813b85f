import type { MediaFacts } from '@hastig/contract';
import type {
  BeatAnalysis,
  FoundMoment,
  FoundOffset,
  Loudness,
  OnsetEnvelope,
  Program,
  ProgramSpan,
  ProgramUpdate,
  TrackedPoint,
} from '@hastig/core';
import type { BeatQuestion } from '../beats/analyse';
import type { EffectFile, WantedEffect } from '../sound-effects/make-file';
import type { MomentQuestion } from '../moments/find';
import type { DeriveJob, DeriveProgress } from '../derive/job';
import type { HeardPart } from '../loudness/measure';
import type { MediaLocation } from '../media/location';
import type { SourceLocations } from '../media/source-pool';
import type { Encodable, EncodableQuestion } from '../render/encodable';
import type { RenderEstimate } from '../render/estimate';
import type { RenderJob, RenderProgress, RenderResult } from '../render/job';
import type { PlayClock } from '../stage/clock';
import type { StageLook } from '../stage/look';
import type { Punctuality } from '../stage/punctuality';
import type { HeardRecording, Recording } from '../sync/find';
import type { WantedThumb } from '../thumbs/thumbnailer';
import type { CameraQuestion } from '../camera/camera';
import type { TrackQuestion } from '../track/track';
import type { StageEvents } from '../stage/stage-events';

/**
 * What a worker of the engine does for a page: the messages between them. A worker is started for one purpose
 * (a stage's pictures or its sound, a render, an inspection), so that none waits for another.
 */
export interface EngineApi {
  /** Answers once the worker can. */
  started(): void;
  stageAttach(canvas: OffscreenCanvas, events: StageEvents): void;
  /**
   * @param update to the program that was told last
   * @param sources null where they are as before
   */
  stageSetProgram(update: ProgramUpdate, sources: SourceLocations | null): Promise<void>;
  stageResize(width: number, height: number): void;
  stageShow(frame: number): Promise<void>;
  stageLook(look: StageLook): Promise<void>;
  stagePreroll(frame: number): Promise<void>;
  /** Gives the moment at which the clock starts. */
  stagePlay(clock: PlayClock, loop: { from: number; to: number } | null): number;
  stageAdjust(clock: PlayClock): void;
  stageStop(): Punctuality;
  /** The same, of what is heard. */
  soundSetProgram(update: ProgramUpdate, sources: SourceLocations | null): Promise<void>;
  /** Gets ready to read from a moment on, in seconds. */
  soundPrepare(seconds: number, rate: number): Promise<void>;
  soundRead(first: number, count: number, rate: number): Promise<Float32Array[] | null>;
  /** Facts of a file, and whether this browser can decode it; throws RefusedMedia. */
  inspect(location: MediaLocation): Promise<MediaFacts>;
  /** The file's frame at each position of a source that is counted along its time; null where each is itself. */
  fileFrames(location: MediaLocation): Promise<Uint32Array | null>;
  /** A small picture of one frame, as a blob address' content (JPEG). */
  poster(location: MediaLocation, frame: number, height: number): Promise<Blob>;
  /** Begins to make small pictures; each is handed to `made` with what it was wanted for. */
  thumbsOpen(height: number, made: (sourceId: string, frame: number, picture: ImageBitmap) => void): void;
  thumbsLocate(sources: SourceLocations): void;
  /** The small pictures wanted now; replaces what was wanted before. */
  thumbsWant(wanted: readonly WantedThumb[]): void;
  thumbsWhilePlaying(playing: boolean): void;
  /** `sound` leads to the worker that makes the program's sound, see `serveSound`. */
  render(job: RenderJob, onProgress: (progress: RenderProgress) => void, sound?: MessagePort): Promise<RenderResult>;
  estimateRender(job: RenderJob): Promise<RenderEstimate>;
  encodable(question: EncodableQuestion): Promise<Encodable>;
  /** Has the render wait, or go on. */
  pauseRender(paused: boolean): void;
  serveSound(program: Program, sources: SourceLocations, port: MessagePort): void;
  /** Makes pictures for another worker, which asks for them through the port. */
  serveMaker(port: MessagePort): void;
  cancelRender(): void;
  derive(job: DeriveJob, onProgress: (progress: DeriveProgress) => void): Promise<void>;
  cancelDerive(): void;
  analyseBeats(question: BeatQuestion, onProgress: (share: number) => void): Promise<BeatAnalysis>;
  envelope(question: BeatQuestion): Promise<OnsetEnvelope>;
  /** Follows what a box shows through a source: back, what was found being sent through the port; and onwards, with what comes from there. */
  trackBack(
    location: MediaLocation,
    question: TrackQuestion,
    onDone: (frames: number) => void,
    port: MessagePort,
  ): Promise<void>;
  trackWith(
    location: MediaLocation,
    question: TrackQuestion,
    onDone: (frames: number) => void,
    port: MessagePort,
  ): Promise<TrackedPoint[]>;
  /** How a source's camera moves. */
  camera(location: MediaLocation, question: CameraQuestion, onDone: (positions: number) => void): Promise<number[]>;
  loudness(
    program: Program,
    sources: SourceLocations,
    onProgress: (share: number) => void,
    part?: HeardPart,
  ): Promise<Loudness | null>;
  /** How far what moves goes from picture to picture. */
  steps(
    program: Program,
    sources: SourceLocations,
    onProgress: (share: number) => void,
    span?: ProgramSpan,
  ): Promise<Float32Array>;
  findSync(ours: HeardRecording, theirs: Recording): Promise<FoundOffset>;
  makeEffect(wanted: WantedEffect): Promise<EffectFile>;
  findMoments(question: MomentQuestion): Promise<FoundMoment[]>;
  /** A stretch of a source's sound as it is, all channels as one; silent where there is none. */
  samples(location: MediaLocation, first: number, count: number): Promise<Float32Array>;
}
