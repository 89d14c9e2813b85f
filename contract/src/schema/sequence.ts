import type { FromSchema } from 'json-schema-to-ts';
import { idSchema, LONGEST_NAME, MOST, MOST_FRAMES, MOST_POSITIONS, nameSchema, textSchema } from './common';
import { effectsSchema } from './effects';
import { exposuresSchema } from './exposure';
import { rateSchema } from './rate';
import { masterSchema, trackSoundSchema } from './sound';

/** Frames, whole. */
const framesSchema = { type: 'integer', minimum: 0, maximum: MOST_FRAMES } as const;
const lengthSchema = { type: 'integer', minimum: 1, maximum: MOST_FRAMES } as const;

/** What markers are told apart by, beside their names: each a colour and a shape of its own in the interface. */
export const markerTones = ['oak', 'moss', 'slate', 'clay', 'plum'] as const;
export type MarkerTone = (typeof markerTones)[number];

/**
 * What a marker stands for: set `hand` by hand (as where nothing is told), a `beat` or the first of a bar (`downbeat`), a `hit` of
 * the sound, or a `moment` of the picture.
 */
export const markerKinds = ['hand', 'beat', 'downbeat', 'hit', 'moment'] as const;
export type MarkerKind = (typeof markerKinds)[number];

const markerWith = <const At extends object>(at: At) =>
  ({
    type: 'object',
    additionalProperties: false,
    required: ['id', 'at', 'name', 'tone'],
    properties: {
      id: idSchema,
      at,
      name: textSchema(LONGEST_NAME),
      tone: { enum: markerTones },
      kind: { enum: markerKinds },
      /** The name of the markers that belong together; those without one are a set too. */
      set: nameSchema,
      /** How plain it is beside others, 0 to 1. */
      strength: { type: 'number', minimum: 0, maximum: 1 },
    },
  }) as const;

/** A named moment. `at` is a whole frame of the sequence or group it lies on. */
export const markerSchema = markerWith({ type: 'integer', minimum: 0, maximum: MOST_FRAMES } as const);

/** A named moment of a source; `at` counts its positions, and may lie between two. */
export const sourceMarkerSchema = markerWith({ type: 'number', minimum: 0, maximum: MOST_POSITIONS } as const);

export type Marker = FromSchema<typeof markerSchema>;

/** A stretch of frames: `from` included, `from + frames` not. */
export const frameRangeSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['from', 'frames'],
  properties: { from: framesSchema, frames: lengthSchema },
} as const;

export type FrameRange = FromSchema<typeof frameRangeSchema>;

/** The same of a source, in its positions. */
export const partSchema = {
  ...frameRangeSchema,
  properties: {
    from: { type: 'integer', minimum: 0, maximum: MOST_POSITIONS },
    frames: { type: 'integer', minimum: 1, maximum: MOST_POSITIONS },
  },
} as const;

/** What lies on a track, one after the other: a clip, as long as the clip shows; or nothing for some frames. */
export const itemSchema = {
  oneOf: [
    { type: 'object', additionalProperties: false, required: ['clip'], properties: { clip: idSchema } },
    { type: 'object', additionalProperties: false, required: ['gap'], properties: { gap: lengthSchema } },
  ],
} as const;

export type TrackItem = FromSchema<typeof itemSchema>;

/** A row of clips and gaps without overlap: where each begins follows from what lies before it. */
export const trackSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'kind', 'name', 'items'],
  properties: {
    id: idSchema,
    kind: { enum: ['picture', 'sound'] },
    name: nameSchema,
    items: { type: 'array', maxItems: MOST.items, items: itemSchema },
    /** Neither seen nor heard. */
    off: { type: 'boolean' },
    /** How it sounds in the mix; as it is where this is not there. */
    sound: trackSoundSchema,
  },
} as const;

export type Track = FromSchema<typeof trackSchema>;

/** Tracks from the lowest picture upwards; where several show something, the uppermost is seen. */
const tracksSchema = { type: 'array', minItems: 1, maxItems: MOST.tracks, items: trackSchema } as const;
const markersSchema = { type: 'array', maxItems: MOST.markers, items: markerSchema } as const;

/** The film: its rate, picture size in pixels, samples per second, and the frame its timecode starts with. */
export const sequenceSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['rate', 'width', 'height', 'sampleRate', 'startFrame', 'tracks', 'markers'],
  properties: {
    rate: rateSchema,
    width: { type: 'integer', minimum: 16, maximum: 16_384 },
    height: { type: 'integer', minimum: 16, maximum: 16_384 },
    sampleRate: { enum: [44_100, 48_000, 96_000] },
    startFrame: framesSchema,
    tracks: tracksSchema,
    markers: markersSchema,
    /** What becomes of the mix; nothing where this is not there. */
    master: masterSchema,
    /** How pictures of all clips are made. */
    exposures: exposuresSchema,
    /** What is done to them then: trails to each clip's, the rest to the whole picture. */
    effects: effectsSchema,
  },
} as const;

export type Sequence = FromSchema<typeof sequenceSchema>;

/** What both a sequence and a group are: tracks and markers at a rate. */
export type Container = Pick<Sequence, 'rate' | 'tracks' | 'markers'>;

/** Clips that are one: a source with a rate and a length of its own, made of tracks. */
export const bareGroupSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'name', 'rate', 'tracks', 'markers'],
  properties: { id: idSchema, name: nameSchema, rate: rateSchema, tracks: tracksSchema, markers: markersSchema },
} as const;
