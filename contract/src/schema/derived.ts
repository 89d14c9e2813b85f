import type { MediaFacts, SoundFacts } from './media';

/** A piece of what is derived from a source's file that is there; pieces are counted from 0. */
export interface DerivedPiece {
  piece: number;
  bytes: number;
}

/** What is derived, and how: a kind, and what else it depends on (letters, digits, dots; empty for nothing). */
export interface DerivedKey {
  kind: DerivedKind;
  params: string;
}

/** `GET /api/derived`: a list of these, what is there of which file in the current version, pieces in order. */
export interface StoredDerived extends DerivedKey {
  sha256: string;
  pieces: DerivedPiece[];
}

/** Frames in a piece of a proxy. */
export const PROXY_PIECE_FRAMES = 600;
/** Seconds from one value of an onset envelope to the next, rounded to whole samples, and values in a piece of it. */
const ONSETS_HOP_SECONDS = 0.005;
export const ONSETS_PIECE_HOPS = 16_384;
/** Samples in a piece of a waveform's peaks: a minute and a half at 48 kHz. */
export const PEAKS_PIECE_SAMPLES = 2 ** 22;

/** Frames in a piece of a clip's motion. */
export const MOTION_PIECE_FRAMES = 1800;

/** Samples from one value of the onset envelope to the next. */
export function onsetHopSamples(sampleRate: number): number {
  return Math.round(sampleRate * ONSETS_HOP_SECONDS);
}

/** Values of the onset envelope of a track of sound. */
export function onsetHops({ seconds, sampleRate }: { seconds: number; sampleRate: number }): number {
  return Math.ceil(Math.round(seconds * sampleRate) / onsetHopSamples(sampleRate));
}

interface KindOfDerived {
  /** Rises when the same source would give something else. What an older version made is made anew. */
  version: number;
  mime: string;
  /** Bytes of one piece at most. */
  mostBytes: number;
  /** What every piece says of itself, and at which byte. */
  mark: { at: number; text: string };
  /** Pieces of the whole; 0 for parameters that it does not have. */
  pieces(facts: MediaFacts, params: string): number;
}

// A track of sound by its number, written in one way only: what is there under two names would be made twice.
function trackOf({ audio, sounds }: MediaFacts, params: string): SoundFacts | undefined {
  return /^(0|[1-9]\d?)$/.test(params) ? ((sounds ?? [audio])[Number(params)] ?? undefined) : undefined;
}

/**
 * What is made once from a source's file and kept beside it, in pieces: so that what is there is of use before all of it is, and
 * an interruption costs little. Each is found by the file's digest, its kind, the kind's version, and its parameters.
 */
export const derivedKinds = {
  /** A proxy: the same frames, small and in short groups, for playing and dragging. */
  proxy: {
    version: 1,
    mime: 'video/mp4',
    mostBytes: 128 * 2 ** 20,
    // ISO/IEC 14496-12, 4.3: a file begins with its type.
    mark: { at: 4, text: 'ftyp' },
    pieces: ({ video }, params) => (params ? 0 : Math.ceil((video?.frames ?? 0) / PROXY_PIECE_FRAMES)),
  },
  /** The peaks of a track of sound, for its waveform; `params` is the track's number, counted from 0. */
  peaks: {
    version: 1,
    mime: 'application/octet-stream',
    mostBytes: 2 ** 20,
    mark: { at: 0, text: 'peaks1' },
    pieces: (facts, params) => {
      const track = trackOf(facts, params);
      return track ? Math.ceil(Math.round(track.seconds * track.sampleRate) / PEAKS_PIECE_SAMPLES) : 0;
    },
  },
  /** The onset envelope of a track of sound, for its beats and hits; `params` is the track's number, counted from 0. */
  onsets: {
    version: 2,
    mime: 'application/octet-stream',
    mostBytes: 2 ** 20,
    mark: { at: 0, text: 'onset2' },
    pieces: (facts, params) => {
      const track = trackOf(facts, params);
      return track ? Math.ceil(onsetHops(track) / ONSETS_PIECE_HOPS) : 0;
    },
  },
  /** What moves in a moving picture, frame by frame, for its moments. */
  motion: {
    version: 1,
    mime: 'application/octet-stream',
    mostBytes: 2 ** 18,
    mark: { at: 0, text: 'motion' },
    pieces: ({ video }, params) => (params ? 0 : Math.ceil((video?.frames ?? 0) / MOTION_PIECE_FRAMES)),
  },
} as const satisfies Record<string, KindOfDerived>;

export type DerivedKind = keyof typeof derivedKinds;

/** What something derived is called in addresses and folders: `proxy-1`, `peaks-1-0`. */
export function derivedName({ kind, params }: DerivedKey): string {
  return `${kind}-${derivedKinds[kind].version}${params && `-${params}`}`;
}

/** What a name stands for; undefined for a name that nothing of the current version has. */
export function derivedKey(name: string): DerivedKey | undefined {
  const [, kind, version, params = ''] = /^([a-z]+)-(\d{1,4})(?:-([a-z0-9.]{1,64}))?$/.exec(name) ?? [];
  if (!kind || !Object.hasOwn(derivedKinds, kind)) return undefined;
  const known = kind as DerivedKind;
  return derivedKinds[known].version === Number(version) ? { kind: known, params } : undefined;
}

/** Pieces of the whole; 0 where there can be none of this file. */
export function derivedPieces({ kind, params }: DerivedKey, facts: MediaFacts): number {
  return derivedKinds[kind].pieces(facts, params);
}
