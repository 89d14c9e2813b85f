import type { Rate } from '@hastig/contract';
import type { Exposure, Program } from '@hastig/core';
import type { SourceLocations } from '../media/source-pool';

/** How good the picture of a file is; each a step of the encoder's quality. */
export const renderQualities = ['low', 'medium', 'high', 'very-high'] as const;
export type RenderQuality = (typeof renderQualities)[number];

/** Where the file goes: the browser's private storage, under a name; or a server that takes pieces by position. */
export type RenderTarget = { to: 'storage'; name: string } | { to: 'address'; url: string };

/** What a file is: picture and sound, in two ways; or sound alone, of which nothing is lost. */
export const renderFormats = ['mp4', 'webm', 'wav'] as const;
export type RenderFormat = (typeof renderFormats)[number];

/** One file to render: what it shows, and what the file shall be. Of a WAVE file nothing is said of a picture. */
export interface RenderJob {
  format: RenderFormat;
  program: Program;
  /** Where the program's sources are. */
  sources: SourceLocations;
  /** Frames per second of the file; the length in seconds does not depend on it. */
  rate: Rate;
  /** How its pictures are exposed; each an instant where that is not told. */
  exposure?: Exposure;
  /** Pixels, as displayed; whole and even. */
  width: number;
  height: number;
  quality: RenderQuality;
  /** Whether the file gets the sources' sound, at the same timing. */
  sound: boolean;
  target: RenderTarget;
}

export interface RenderProgress {
  /** Frames done and in all. */
  done: number;
  total: number;
  /** Averaged over the last few seconds. */
  framesPerSecond: number;
  /** At that rate; Infinity while it is unknown. */
  secondsLeft: number;
}

export interface RenderResult {
  /** Name or address of the finished file. */
  name: string;
  frames: number;
  /** Length of the file in seconds. */
  seconds: number;
  bytes: number;
  /** Seconds of work. */
  took: number;
}
