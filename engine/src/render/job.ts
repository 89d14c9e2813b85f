import type { OutputForm, Rate, RenderQuality } from '@hastig/contract';
import type { Exposure, FileMarks, Program, ProgramSpan, Stretch } from '@hastig/core';
import type { SourceLocations } from '../media/source-pool';

/**
 * Where a file goes: the browser's private storage, under a name; a folder that was chosen, for pictures that are files of their own; or a
 * server that takes pieces by position, with what its file will be called.
 */
export type RenderTarget =
  | { to: 'storage'; name: string }
  | { to: 'folder'; folder: FileSystemDirectoryHandle; name: string }
  | { to: 'address'; url: string; name?: string };

/** One file to render: what it shows, and what the file shall be. Of sound alone nothing is said of a picture. */
export interface RenderJob extends OutputForm {
  program: Program;
  /** What of it; all of it unless told. */
  span?: ProgramSpan;
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
  /** What the film is called, for formats that say so. */
  title?: string;
  /** Its chapters and start timecode, for formats that have them. */
  marks?: FileMarks;
  /** Of a film only some of its pictures, or its sound alone, in its own format: a part that is joined to others later. */
  only?: Stretch | 'sound';
  /** Addresses of the parts that make it: stretches of its pictures in order, and its sound. */
  parts?: { pictures: readonly string[]; sound?: string };
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
  /** Bytes written so far. */
  bytes: number;
  /** What is made now, small (JPEG); told now and then. */
  picture?: Blob;
  /** Its loudness is measured before anything is written. */
  listening?: boolean;
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
  /** LUFS, where it was brought to a loudness. */
  loudness?: number;
}
