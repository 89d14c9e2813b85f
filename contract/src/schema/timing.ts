import type { FromSchema } from 'json-schema-to-ts';
import { MOST_POSITIONS } from './common';
import { rateSchema } from './rate';

const unitPair = {
  type: 'array',
  minItems: 2,
  maxItems: 2,
  items: [
    { type: 'number', minimum: 0, maximum: 1 },
    { type: 'number', minimum: 0, maximum: 1 },
  ],
  additionalItems: false,
} as const;

const fourNumbers = {
  type: 'array',
  minItems: 4,
  maxItems: 4,
  items: [{ type: 'number' }, { type: 'number' }, { type: 'number' }, { type: 'number' }],
  additionalItems: false,
} as const;

/**
 * One span of a retime map: a cubic Bézier over `frames` output frames.
 *
 * `x` are the two handles' times (0…1 of the span); `y` four absolute values: speeds (1 is real time) or
 * source frames counted from the span's start. `jump` moves the source position, in source frames, at the
 * span's first instant: a cut inside the clip, as a reversed middle part or a stutter needs. A `locked` span is
 * left alone by fitting and landing.
 */
export const spanSchema = {
  $id: 'hastig:span',
  type: 'object',
  additionalProperties: false,
  required: ['of', 'frames', 'x', 'y'],
  properties: {
    of: { enum: ['speed', 'position'] },
    frames: { type: 'number', exclusiveMinimum: 0, maximum: 1_000_000_000 },
    x: unitPair,
    y: fourNumbers,
    jump: { type: 'number' },
    locked: { type: 'boolean' },
  },
} as const;

export type Span = FromSchema<typeof spanSchema>;

/** A promise that source position `source` stands at output time `output` (both in frames, real). */
export const pinSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['output', 'source'],
  properties: { output: { type: 'number', minimum: 0 }, source: { type: 'number' } },
} as const;

export type Pin = FromSchema<typeof pinSchema>;

const timingProperties = {
  start: { type: 'number' },
  spans: { type: 'array', minItems: 1, maxItems: 1_000_000, items: spanSchema },
  pins: { type: 'array', maxItems: 100_000, items: pinSchema },
} as const;

/** What a clip stores of its timing; its rates come from its source and its sequence. */
export const timingSchema = {
  $id: 'hastig:timing',
  type: 'object',
  additionalProperties: false,
  required: ['start', 'spans'],
  properties: timingProperties,
} as const;

export type Timing = FromSchema<typeof timingSchema>;

/** The map file (`docs/formats.md`) and the map the core computes with: a timing and all it depends on. */
export const mapFileSchema = {
  $id: 'hastig:map',
  type: 'object',
  additionalProperties: false,
  required: ['sourceRate', 'outputRate', 'sourceFrames', 'start', 'spans'],
  properties: {
    sourceRate: rateSchema,
    outputRate: rateSchema,
    sourceFrames: { type: 'integer', minimum: 1, maximum: MOST_POSITIONS },
    ...timingProperties,
  },
} as const;

export type RetimeMap = FromSchema<typeof mapFileSchema>;
