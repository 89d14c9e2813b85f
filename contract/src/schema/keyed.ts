import type { FromSchema } from 'json-schema-to-ts';

/** The handles of a cubic Bézier from (0, 0) to (1, 1), as CSS Easing Functions (W3C) has them. */
export const easeSchema = {
  type: 'array',
  minItems: 4,
  maxItems: 4,
  items: [
    { type: 'number', minimum: 0, maximum: 1 },
    { type: 'number' },
    { type: 'number', minimum: 0, maximum: 1 },
    { type: 'number' },
  ],
  additionalItems: false,
} as const;

/** A value at a moment. `ease` leads to the next key, as of a ramp: the handles of a cubic Bézier from (0, 0) to (1, 1). */
const valueKeySchema = {
  type: 'object',
  additionalProperties: false,
  required: ['at', 'value'],
  properties: {
    at: { type: 'number' },
    value: { type: 'number' },
    ease: easeSchema,
  },
} as const;

/**
 * A number that changes over time: keys in order, between them what their eases say, before the first and after the last what
 * these are. `by` says what the keys' times count: positions of what the clip is made of, so that they stay with its content
 * through any retime; or output frames of the clip's timing, so that they run evenly whatever the content does.
 */
export const keyedSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['by', 'keys'],
  properties: {
    by: { enum: ['source', 'output'] },
    keys: { type: 'array', minItems: 1, maxItems: 10_000, items: valueKeySchema },
  },
} as const;

export type ValueKey = FromSchema<typeof valueKeySchema>;
export type Keyed = FromSchema<typeof keyedSchema>;
