import type { Fields } from '@hastig/contract';
import { framesPerFileFrame, keepField, placeInFile, type Plane, type Size } from '@hastig/core';
import { VideoSample } from 'mediabunny';
import { FrameCache } from './frame-cache';
import type { PictureBudget } from './picture-budget';
import type { SourceFrames } from './source-frames';

/**
 * The frames of an interlaced source: each made of one field of a frame of its file. How its fields are taken may change
 * while it is in use, also while playing.
 */
export class FieldFrames implements SourceFrames {
  private made: FrameCache;
  private fit: Size | null = null;
  private wanted: readonly number[] = [];
  private making = false;
  private closed = false;

  /** @param file the file's own frames, both fields in each */
  constructor(
    private readonly file: SourceFrames,
    private fields: Fields,
    private readonly budget: PictureBudget,
  ) {
    this.made = new FrameCache(budget);
  }

  get identity(): string | undefined {
    const { file, fields } = this;
    return file.identity && `${file.identity} ${fields.use} ${fields.first}`;
  }

  get frames(): number {
    return this.file.frames * framesPerFileFrame(this.fields);
  }

  /** Takes the fields another way from now on. Frames must be counted anew by whoever asks for them. */
  take(fields: Fields): void {
    if (fields.use === this.fields.use && fields.first === this.fields.first) return;
    this.fields = fields;
    this.wanted = [];
    // What is being made by the old way goes with the old cache.
    this.made.clear();
    this.made = new FrameCache(this.budget);
    this.fitTo(this.fit);
  }

  // Fields are told apart by their lines: the file's own picture must have all of them.
  fitTo(fit: Size | null): void {
    this.fit = fit;
    this.file.fitTo(this.fields.use === 'woven' ? fit : null);
  }

  peek(frame: number): VideoSample | undefined {
    const { frame: stored, lines } = placeInFile(this.fields, frame);
    return lines ? this.made.get(frame) : this.file.peek(stored);
  }

  async get(frame: number, signal?: AbortSignal): Promise<VideoSample> {
    const { fields, made } = this;
    const ready = made.get(frame);
    if (ready) return ready.clone();
    const { frame: stored, lines } = placeInFile(fields, frame);
    const sample = await this.file.get(stored, signal);
    if (!lines) return sample;
    try {
      const picture = await pictureOfField(sample, lines);
      // Made by the way before, it is of use to whoever asked, and nobody would ever let it go.
      if (!this.closed && made === this.made) made.put(frame, picture.clone());
      return picture;
    } finally {
      sample.close();
    }
  }

  prefetch(frames: readonly number[], direction: 1 | -1, passing = false): void {
    const places = frames.map((frame) => placeInFile(this.fields, frame));
    this.file.prefetch([...new Set(places.map(({ frame }) => frame))], direction, passing);
    this.wanted = places[0]?.lines ? frames : [];
    if (this.wanted.length > 0) this.made.aim(this.wanted[0]!, direction);
    if (!this.making) void this.makeWanted();
  }

  group(frame: number): { start: number; end: number } {
    const times = framesPerFileFrame(this.fields);
    const { start, end } = this.file.group(placeInFile(this.fields, frame).frame);
    return { start: start * times, end: end * times };
  }

  rest(): void {
    this.wanted = [];
    this.made.clear();
    this.file.rest();
  }

  async close(): Promise<void> {
    this.closed = true;
    this.rest();
    await this.file.close();
  }

  private async makeWanted(): Promise<void> {
    this.making = true;
    for (let next = this.nextWanted(); next !== undefined; next = this.nextWanted()) {
      try {
        (await this.get(next)).close();
      } catch {
        // Whoever asks for this very frame is told why.
        this.wanted = [];
      }
    }
    this.making = false;
  }

  private nextWanted(): number | undefined {
    return this.closed ? undefined : this.wanted.find((frame) => !this.made.has(frame));
  }
}

/** A picture of one field of a frame, with its time, size and turn. */
async function pictureOfField(sample: VideoSample, lines: 'top' | 'bottom'): Promise<VideoSample> {
  const bytes = new Uint8Array(sample.allocationSize());
  const layout = await sample.copyTo(bytes);
  const wide = /P1[02]$/.test(sample.format ?? '');
  const unit = wide ? 2 : 1;
  const halves = /^(I420|NV12)/.test(sample.format ?? '');
  const { width: codedWidth, height: codedHeight } = sample.visibleRect;
  const planes = layout.map(({ offset, stride }, index): Plane => {
    const height = halves && (index === 1 || index === 2) ? Math.ceil(codedHeight / 2) : codedHeight;
    return { offset: offset / unit, stride: stride / unit, width: stride / unit, height };
  });
  keepField(wide ? new Uint16Array(bytes.buffer) : bytes, planes, lines);
  return new VideoSample(bytes, {
    format: sample.format!,
    codedWidth,
    codedHeight,
    displayWidth: sample.displayWidth,
    displayHeight: sample.displayHeight,
    timestamp: sample.timestamp,
    duration: sample.duration,
    colorSpace: sample.colorSpace,
    rotation: sample.rotation,
    layout,
  });
}
