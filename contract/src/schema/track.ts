import type { FromSchema } from 'json-schema-to-ts';
import { idSchema, MOST_POSITIONS, nameSchema } from './common';

/** Frames of a track at most. */
export const MOST_TRACKED = 100_000;
/** Tracks of a source at most. */
const MOST_TRACKS = 100;

const pixelsSchema = { type: 'number', minimum: -100_000, maximum: 100_000 } as const;

/**
 * Where something is in each frame of a source: what a box showed on one of its positions. `at` has three numbers for each position,
 * from the first on: across and down, in pixels of the picture as displayed, and how sure it is, 0 to 1.
 */
export const pictureTrackSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'name', 'frame', 'box', 'at'],
  properties: {
    id: idSchema,
    name: nameSchema,
    frame: { type: 'integer', minimum: 0, maximum: MOST_POSITIONS },
    box: {
      type: 'object',
      additionalProperties: false,
      required: ['x', 'y', 'width', 'height'],
      properties: { x: pixelsSchema, y: pixelsSchema, width: pixelsSchema, height: pixelsSchema },
    },
    at: { type: 'array', minItems: 3, maxItems: 3 * MOST_TRACKED, items: pixelsSchema },
  },
} as const;

export type PictureTrack = FromSchema<typeof pictureTrackSchema>;

export const pictureTracksSchema = { type: 'array', maxItems: MOST_TRACKS, items: pictureTrackSchema } as const;

/** Frames of which a source's camera is told at most. */
export const MOST_CAMERA = 40_000;
/** Numbers of each. */
export const CAMERA_NUMBERS = 9;

/**
 * How a source's camera moved over a stretch of its positions, from `from` on. `moves` has nine numbers for each: where the corners of the
 * frame before went in it, clockwise from above left, across and down, in pixels of the picture as displayed, and how sure that is, 0 to
 * 1: 0 where a frame has nothing to do with the one before.
 */
const cameraSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['from', 'moves'],
  properties: {
    from: { type: 'integer', minimum: 0, maximum: MOST_POSITIONS },
    moves: {
      type: 'array',
      minItems: CAMERA_NUMBERS,
      maxItems: CAMERA_NUMBERS * MOST_CAMERA,
      items: pixelsSchema,
    },
  },
} as const;

export type SourceCamera = FromSchema<typeof cameraSchema>;

/** Stretches that lie apart, in order. */
export const camerasSchema = { type: 'array', minItems: 1, maxItems: 50, items: cameraSchema } as const;
