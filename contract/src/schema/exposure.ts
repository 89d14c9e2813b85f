import type { FromSchema } from 'json-schema-to-ts';
import { idSchema, MOST_POSITIONS } from './common';

/** What is seen between two source frames where fewer than one of them passes in an output frame. */
export const slowWays = ['held', 'blended', 'compensated'] as const;
export type SlowWay = (typeof slowWays)[number];

/** Largest angle of a shutter, in degrees: it is open until the next picture. */
export const MOST_SHUTTER = 360;
/** Most moments of one exposure: more can't be told apart in eight bits. */
export const MOST_SAMPLES = 256;
/** Samples that follow how far things move while the shutter is open. */
export const AUTO_SAMPLES = 'auto';

/** Most frames that an exposure may be said to consist of, and to be left out between two. */
export const MOST_TAKEN = 1000;
export const MOST_LEFT_OUT = 100_000;

const positionSchema = { type: 'number', minimum: 0, maximum: MOST_POSITIONS } as const;
/** A speed as a factor of real time, whichever way. */
const speedSchema = { type: 'number', minimum: 0, maximum: 10_000 } as const;

/** A stretch: positions of what the clip is made of, or output frames of its timing; of the sequence, its frames; `to` not included. */
export const stretchSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['by', 'from', 'to'],
  properties: { by: { enum: ['source', 'output'] }, from: positionSchema, to: positionSchema },
} as const;

export type Stretch = FromSchema<typeof stretchSchema>;

/** Where something is faster, or slower, than a speed. */
export const onlySchema = {
  type: 'object',
  additionalProperties: false,
  required: ['than', 'speed'],
  properties: { than: { enum: ['faster', 'slower'] }, speed: speedSchema },
} as const;

/**
 * How pictures are made, where this holds. What it does not say stays as it is: `slow`, what is seen between source frames;
 * `shutter`, for how many degrees of an output frame it is open, 0 an instant; `samples`, at how many moments of an open shutter is
 * looked, or as many as the movement in it asks for.
 *
 * Of the frames that pass, `every` so many one is looked at, counted `from` one; `most` so many are averaged in one exposure, evenly
 * spread; `keys`, only those that are coded by themselves, the nearest in place of each: a quick draft. `evenLight` evens out light that
 * flickers from one frame to the next.
 *
 * It holds everywhere, or `over` a stretch: positions of what the clip is made of, so that it stays with its content, or output
 * frames of the clip's timing; of the sequence, its frames; `to` not included. `only` where it is faster or slower than a speed.
 * `grows` opens the shutter from nothing at the one speed to all of it at the other.
 */
export const exposureStepSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id'],
  properties: {
    id: idSchema,
    off: { type: 'boolean' },
    slow: { enum: slowWays },
    shutter: { type: 'number', minimum: 0, maximum: MOST_SHUTTER },
    samples: { anyOf: [{ type: 'integer', minimum: 1, maximum: MOST_SAMPLES }, { const: AUTO_SAMPLES }] },
    every: {
      type: 'object',
      additionalProperties: false,
      required: ['frames'],
      properties: {
        frames: { type: 'integer', minimum: 1, maximum: MOST_LEFT_OUT },
        from: { type: 'integer', minimum: 0, maximum: MOST_POSITIONS },
      },
    },
    most: { type: 'integer', minimum: 1, maximum: MOST_TAKEN },
    keys: { type: 'boolean' },
    evenLight: { type: 'boolean' },
    over: stretchSchema,
    only: onlySchema,
    grows: {
      type: 'object',
      additionalProperties: false,
      required: ['from', 'to'],
      properties: { from: speedSchema, to: speedSchema },
    },
  },
} as const;

export type ExposureStep = FromSchema<typeof exposureStepSchema>;

/** In order: where several say the same thing, the last one that holds there counts. */
export const exposuresSchema = { type: 'array', minItems: 1, maxItems: 1000, items: exposureStepSchema } as const;
