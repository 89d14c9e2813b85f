import type { FromSchema } from 'json-schema-to-ts';
import { textSchema } from './common';
import { rateSchema } from './rate';

export const sha256Schema = { type: 'string', pattern: '^[0-9a-f]{64}$' } as const;

/** How a picture was taken: all lines at once, or in two fields of every other line, one after the other. */
export const scans = ['progressive', 'topFirst', 'bottomFirst'] as const;
export type Scan = (typeof scans)[number];

/**
 * What becomes of frames that come at irregular times where one counts at an even rate along their time: how many positions
 * there are, how many of them show the frame before once more, and how many frames no position shows.
 */
const rateFitSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['rate', 'frames', 'repeated', 'skipped'],
  properties: {
    rate: rateSchema,
    frames: { type: 'integer', minimum: 1 },
    repeated: { type: 'integer', minimum: 0 },
    skipped: { type: 'integer', minimum: 0 },
    /** Seconds by which a frame's time is off its position at the most. Not there where positions show what the file shows at their instant. */
    within: { type: 'number', minimum: 0 },
  },
} as const;

export type RateFit = FromSchema<typeof rateFitSchema>;

/** Tracks of sound that one may choose from; cameras and recorders write some eight. */
export const MOST_SOUND_TRACKS = 32;

/** A track of sound; `name` and `language` (ISO 639-2) as the file says, where it does. */
const soundFactsSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['codec', 'channels', 'sampleRate', 'seconds'],
  properties: {
    codec: textSchema(40),
    channels: { type: 'integer', minimum: 1, maximum: 64 },
    sampleRate: { type: 'integer', minimum: 1, maximum: 1_000_000 },
    seconds: { type: 'number', minimum: 0 },
    name: textSchema(100),
    language: textSchema(10),
  },
} as const;

export type SoundFacts = FromSchema<typeof soundFactsSchema>;

/** Numbered stills in one source at the most: an hour and more at 24 a second. */
export const MOST_STILLS = 100_000;

/**
 * A still, or numbered stills taken one after the other; sizes as displayed, after rotation. `first` is the number of the first
 * picture; `gaps` are numbers that no picture has, in order.
 */
const stillFactsSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['codec', 'width', 'height', 'pictures'],
  properties: {
    codec: textSchema(40),
    width: { type: 'integer', minimum: 1, maximum: 65_536 },
    height: { type: 'integer', minimum: 1, maximum: 65_536 },
    pictures: { type: 'integer', minimum: 1, maximum: MOST_STILLS },
    /** It may let through what lies below it. */
    alpha: { const: true },
    first: { type: 'integer', minimum: 0 },
    gaps: {
      type: 'array',
      maxItems: MOST_STILLS,
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['from', 'count'],
        properties: { from: { type: 'integer', minimum: 0 }, count: { type: 'integer', minimum: 1 } },
      },
    },
  },
} as const;

export type StillFacts = FromSchema<typeof stillFactsSchema>;

/**
 * What a media file is, read from its container and packets. Durations in seconds, sizes in pixels. `video` is null for sound
 * alone and for stills; these have `still`.
 */
export const mediaFactsSchema = {
  $id: 'hastig:media-facts',
  type: 'object',
  additionalProperties: false,
  required: ['container', 'mime', 'bytes', 'video', 'audio'],
  properties: {
    container: textSchema(60),
    mime: textSchema(200),
    bytes: { type: 'integer', minimum: 1 },
    /** Where the file that is read was made of another, which browsers don't decode: what that is coded as, and its bytes. */
    converted: {
      type: 'object',
      additionalProperties: false,
      required: ['from', 'bytes'],
      properties: { from: textSchema(100), bytes: { type: 'integer', minimum: 1 } },
    },
    still: stillFactsSchema,
    video: {
      type: ['object', 'null'],
      additionalProperties: false,
      required: [
        'codec',
        'codecString',
        'width',
        'height',
        'rotation',
        'rate',
        'frames',
        'constantRate',
        'longestGroup',
        'seconds',
      ],
      properties: {
        codec: textSchema(40),
        codecString: textSchema(100),
        /** As displayed, after rotation. */
        width: { type: 'integer', minimum: 1, maximum: 65_536 },
        height: { type: 'integer', minimum: 1, maximum: 65_536 },
        /** Clockwise degrees the decoded picture is turned for display. */
        rotation: { enum: [0, 90, 180, 270] },
        rate: rateSchema,
        frames: { type: 'integer', minimum: 1 },
        /** False when the distance between frames varies by more than the container's own rounding. */
        constantRate: { type: 'boolean' },
        /**
         * Of frames that come at irregular times: how many come in a second on the whole, and how the standard rates fit
         * them, the best first; it is `rate`. Not there where `rate` is the average: of files looked at by an older version.
         */
        varying: {
          type: 'object',
          additionalProperties: false,
          required: ['average', 'fits'],
          properties: { average: rateSchema, fits: { type: 'array', minItems: 1, maxItems: 20, items: rateFitSchema } },
        },
        /** Frames in the longest group of pictures: the most that must be decoded to see one. */
        longestGroup: { type: 'integer', minimum: 1 },
        seconds: { type: 'number', minimum: 0 },
        /** As the stream says; not there where it was never looked for. */
        scan: { enum: scans },
        /**
         * What the file says of its colours: their matrix by its name in WebCodecs, `unspecified` where it says nothing, and
         * whether its values use all of their range. Not there where it was never looked for.
         */
        colours: {
          type: 'object',
          additionalProperties: false,
          required: ['matrix', 'fullRange'],
          properties: { matrix: textSchema(40), fullRange: { type: 'boolean' } },
        },
        /** Bits of each sample, where they are more than 8. */
        bits: { type: 'integer', minimum: 9, maximum: 16 },
        /** Of a picture with a wider range of light than screens of the usual kind show (ITU-R BT.2100). */
        light: { enum: ['pq', 'hlg'] },
      },
    },
    /** The track that players play unless told otherwise; null where there is no sound. */
    audio: { ...soundFactsSchema, type: ['object', 'null'] },
    /** All tracks of sound, `audio` the first, where there are several. */
    sounds: { type: 'array', minItems: 2, maxItems: MOST_SOUND_TRACKS, items: soundFactsSchema },
  },
} as const;

export type MediaFacts = FromSchema<typeof mediaFactsSchema>;

/** A stored media file: its content's SHA-256 and its facts. */
export const storedMediaSchema = {
  $id: 'hastig:stored-media',
  type: 'object',
  additionalProperties: false,
  required: ['sha256', 'facts'],
  properties: { sha256: sha256Schema, facts: mediaFactsSchema },
} as const;

export type StoredMedia = FromSchema<typeof storedMediaSchema>;
