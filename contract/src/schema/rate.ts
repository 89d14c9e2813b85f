import type { FromSchema } from 'json-schema-to-ts';

/** Frames per second as an exact fraction: 29.97 is 30000/1001, never a decimal. */
export const rateSchema = {
  $id: 'hastig:rate',
  type: 'object',
  additionalProperties: false,
  required: ['num', 'den'],
  properties: {
    num: { type: 'integer', minimum: 1, maximum: 1_000_000_000 },
    den: { type: 'integer', minimum: 1, maximum: 1_000_000_000 },
  },
} as const;

/** Frames per second, `num / den`. */
export type Rate = FromSchema<typeof rateSchema>;
