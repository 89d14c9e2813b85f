import type { Rate } from '@hastig/contract';
import { positionsIn, type Size } from '@hastig/core';
import { frameAtPosition, lengthOf, positionOfFrame, type FrameIndex } from '@hastig/probe';
import type { VideoSample } from 'mediabunny';
import type { SourceFrames } from './source-frames';

/** A source whose frames come at irregular times, counted at an even rate along them: each position is what the file shows then. */
export class TimedFrames implements SourceFrames {
  readonly frames: number;

  /** @param file the file's own frames, one after the other */
  constructor(
    private readonly file: SourceFrames,
    private readonly index: FrameIndex,
    private readonly rate: Rate,
  ) {
    this.frames = positionsIn(lengthOf(index), rate);
  }

  peek(position: number): VideoSample | undefined {
    return this.file.peek(this.frameAt(position));
  }

  async get(position: number, signal?: AbortSignal): Promise<VideoSample> {
    if (!(position >= 0 && position < this.frames)) throw new RangeError(`there is no frame ${position}`);
    return this.file.get(this.frameAt(position), signal);
  }

  prefetch(positions: readonly number[], direction: 1 | -1, passing = false): void {
    const frames = new Set(positions.map((position) => this.frameAt(position)));
    this.file.prefetch([...frames], direction, passing);
  }

  group(position: number): { start: number; end: number } {
    const { start, end } = this.file.group(this.frameAt(position));
    const first = (frame: number): number =>
      frame < this.index.timestamps.length ? positionOfFrame(this.index, this.rate, frame) : this.frames;
    return { start: first(start), end: first(end) };
  }

  fitTo(fit: Size | null): void {
    this.file.fitTo(fit);
  }

  rest(): void {
    this.file.rest();
  }

  close(): Promise<void> {
    return this.file.close();
  }

  private frameAt(position: number): number {
    return frameAtPosition(this.index, this.rate, position);
  }
}
