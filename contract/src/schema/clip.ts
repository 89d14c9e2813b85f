import type { FromSchema } from 'json-schema-to-ts';
import { idSchema, MOST, nameSchema } from './common';
import { effectsSchema } from './effects';
import { exposuresSchema } from './exposure';
import { pictureSettingsSchema } from './picture';
import { frameRangeSchema } from './sequence';
import { soundSettingsSchema } from './sound';
import { timingSchema } from './timing';

/**
 * Versions of something by their names, and which of them is worked on: what stands in the list for that one is how it was when it
 * was last left, and what it is now is the thing itself.
 */
export const versionsOf = <const Content extends object>(content: Content) =>
  ({
    liveVersion: idSchema,
    versions: {
      type: 'array',
      minItems: 1,
      maxItems: MOST.versions,
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['id', 'name', 'content'],
        properties: { id: idSchema, name: nameSchema, content },
      },
    },
  }) as const;

/**
 * What happens on a track when a retime changes a clip's length: `ripple`, what follows moves; `slot`, the clip keeps its
 * place and the excess is hidden.
 */
export const lengthModes = ['ripple', 'slot'] as const;
export type LengthMode = (typeof lengthModes)[number];

/** What a clip is beside its name, its place and what it is made of: what its versions differ in. */
const clipContent = {
  timing: timingSchema,
  shown: frameRangeSchema,
  /** Its sound is not heard. */
  muted: { type: 'boolean' },
  /** How its picture lies in the frame; all of it, as large as it fits, where this is not there. */
  picture: pictureSettingsSchema,
  /** How it sounds; its pitch follows its speed where this is not there. */
  sound: soundSettingsSchema,
  /** How its pictures are made; each an instant, the frame that stands there, where this is not there. */
  exposures: exposuresSchema,
  /** What is done to its pictures once they are made. */
  effects: effectsSchema,
} as const;

const clipContentSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['timing', 'shown'],
  properties: clipContent,
} as const;

export type ClipContent = FromSchema<typeof clipContentSchema>;

/**
 * A clip: a source or a group with a timing of its own, in output frames of the sequence or group it lies in. `shown` is
 * the stretch of the timing that is seen; what lies before and after it are hidden handles. Where it reaches past the
 * timing's end, nothing is seen.
 */
export const clipSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'name', 'of', 'timing', 'shown', 'length'],
  properties: {
    id: idSchema,
    name: nameSchema,
    of: {
      type: 'object',
      additionalProperties: false,
      required: ['kind', 'id'],
      properties: { kind: { enum: ['source', 'group'] }, id: idSchema },
    },
    ...clipContent,
    length: { enum: lengthModes },
    /** The clip whose sound this was before it was detached. */
    soundFrom: idSchema,
    ...versionsOf(clipContentSchema),
  },
} as const;

export type Clip = FromSchema<typeof clipSchema>;
