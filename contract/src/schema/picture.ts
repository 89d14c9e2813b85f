import type { FromSchema } from 'json-schema-to-ts';
import { keyedSchema } from './keyed';

/**
 * How large a picture is laid in its frame before it is scaled: `whole`, as large as all of it fits; `fill`, as small as it
 * leaves nothing of the frame free; `pixels`, pixel for pixel.
 */
const pictureFits = ['whole', 'fill', 'pixels'] as const;

/** Which way a picture is mirrored: left and right changed over, top and bottom, or both. */
export const mirrors = ['none', 'across', 'down', 'both'] as const;
export type Mirror = (typeof mirrors)[number];

const shareSchema = { type: 'number', minimum: 0, exclusiveMaximum: 1 } as const;

/**
 * How a clip's picture lies in the frame of what the clip lies in.
 *
 * `scale` is a factor on top of the fit. `x` and `y` move its middle from the frame's, to the right and down, in widths and
 * heights of the frame, so that they hold when the sequence gets another size. `turn` is in degrees clockwise. `crop` takes
 * shares off the picture's own edges; the rest stays where it was. `opacity` runs from 0 to 1.
 */
export const pictureSettingsSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['fit', 'scale', 'x', 'y', 'turn', 'mirror', 'crop', 'opacity'],
  properties: {
    fit: { enum: pictureFits },
    scale: { type: 'number', minimum: 0.01, maximum: 100 },
    x: { type: 'number', minimum: -10, maximum: 10 },
    y: { type: 'number', minimum: -10, maximum: 10 },
    turn: { type: 'number', minimum: -360, maximum: 360 },
    mirror: { enum: mirrors },
    crop: {
      type: 'object',
      additionalProperties: false,
      required: ['left', 'top', 'right', 'bottom'],
      properties: { left: shareSchema, top: shareSchema, right: shareSchema, bottom: shareSchema },
    },
    opacity: { type: 'number', minimum: 0, maximum: 1 },
    /** Those that change over time; the value above is not used then. */
    keys: {
      type: 'object',
      additionalProperties: false,
      minProperties: 1,
      properties: { scale: keyedSchema, x: keyedSchema, y: keyedSchema, turn: keyedSchema, opacity: keyedSchema },
    },
  },
} as const;

export type PictureSettings = FromSchema<typeof pictureSettingsSchema>;

/** The settings that may change over time. */
export type KeyedSetting = keyof NonNullable<PictureSettings['keys']>;
