// @ts-expect-error The package brings no types; what is used of it is typed here.
import untyped from 'node-webvtt';

/** A cue of a WebVTT file; times in seconds. */
interface Cue {
  identifier: string;
  start: number;
  end: number;
  text: string;
  styles: string;
}

interface WebVtt {
  /** Throws where the text is no WebVTT. */
  parse(text: string, options?: { meta?: boolean; strict?: boolean }): { cues: Cue[] };
  compile(input: { valid: true; cues: Cue[] }): string;
}

export const webvtt = untyped as WebVtt;
