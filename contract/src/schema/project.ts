import type { FromSchema } from 'json-schema-to-ts';
import { idSchema, MOST, nameSchema } from './common';
import { clipSchema, lengthModes } from './clip';
import { slowWays } from './exposure';
import { mediaFactsSchema, MOST_SOUND_TRACKS, sha256Schema } from './media';
import { rateSchema } from './rate';
import { presetsSchema } from './output';
import { partSchema, sequenceSchema, sourceMarkerSchema } from './sequence';
import { camerasSchema, pictureTracksSchema } from './track';
import { filmVersions, groupSchema } from './versions';

/** The version this program writes. Older documents are migrated on load (`../migrate.ts`). */
export const PROJECT_VERSION = 9;

/**
 * What is made of the fields of an interlaced picture: both `woven` into one frame, as they are stored; only the `first`,
 * its missing lines drawn between; or `both`, each a frame in its own right, so that there are twice as many.
 */
export const fieldUses = ['woven', 'first', 'both'] as const;
export type FieldUse = (typeof fieldUses)[number];

/** How a source's fields are taken, and which of the two comes first in time: the top lines or the bottom lines. */
export const fieldsSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['use', 'first'],
  properties: { use: { enum: fieldUses }, first: { enum: ['top', 'bottom'] } },
} as const;

export type Fields = FromSchema<typeof fieldsSchema>;

/**
 * How positions count in a file whose frames come at irregular times: at an even `rate`, each frame laid on the `nearest` position of
 * its own; at an even `rate` along its `time`, so that position k is what the file shows at the instant k / rate seconds, as
 * projects of before have it; or `frame` by frame, each once, however long it stays.
 */
export const countingSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['by'],
  properties: { by: { enum: ['nearest', 'time', 'frame'] }, rate: rateSchema },
} as const;

export type Counting = FromSchema<typeof countingSchema>;

/** Colours of video: ITU-R BT.601 of 525 and of 625 lines, and BT.709. */
export const colourSpaces = ['bt601-525', 'bt601-625', 'bt709'] as const;
export type ColourSpace = (typeof colourSpaces)[number];

/** What a source's values stand for, and whether they use all of their range or luma 16…235 and colour differences 16…240. */
export const coloursSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['space', 'fullRange'],
  properties: { space: { enum: colourSpaces }, fullRange: { type: 'boolean' } },
} as const;

export type Colours = FromSchema<typeof coloursSchema>;

/**
 * A source: a media file brought into the project. `readAs` is the rate its frames are taken to have in place of the
 * file's own, as when 120 fps are read as 24; `part` is what new clips of it show. `fields` is there where they are taken
 * otherwise than the file's scan suggests, `counting` where frames at irregular times are counted otherwise than suggested.
 * Markers, part and clips count the source's positions: frames of its picture, of which there are two for each of the file's
 * where both fields are used; of sound alone its samples; of stills its pictures.
 */
export const sourceSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'name', 'sha256', 'facts'],
  properties: {
    id: idSchema,
    name: nameSchema,
    sha256: sha256Schema,
    facts: mediaFactsSchema,
    readAs: rateSchema,
    fields: fieldsSchema,
    counting: countingSchema,
    /** Its colours, where they are others than the file says or than is assumed where it says nothing. */
    colours: coloursSchema,
    /** Which of the file's tracks of sound is heard, by its place in `facts.sounds`; the first unless told. */
    soundTrack: { type: 'integer', minimum: 0, maximum: MOST_SOUND_TRACKS - 1 },
    part: partSchema,
    markers: { type: 'array', maxItems: MOST.markers, items: sourceMarkerSchema },
    /** What was followed through its frames. */
    tracks: pictureTracksSchema,
    /** How its camera moved, where that was analysed. */
    cameras: camerasSchema,
  },
} as const;

export type Source = FromSchema<typeof sourceSchema>;

/** What new things get unless told otherwise. */
const defaultsSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['length', 'arrivals'],
  properties: {
    length: { enum: lengthModes },
    /** Whether footage that comes in is laid at the end of the timeline, or waits in the footage. */
    arrivals: { enum: ['lay', 'wait'] },
    /** What slow parts of clips that are made of footage show; held where it is not told. */
    slow: { enum: slowWays },
  },
} as const;

export const projectDocumentSchema = {
  $id: 'hastig:project',
  type: 'object',
  additionalProperties: false,
  required: ['version', 'name', 'defaults', 'sequence', 'sources', 'groups', 'clips'],
  properties: {
    version: { const: PROJECT_VERSION },
    name: nameSchema,
    defaults: defaultsSchema,
    sequence: sequenceSchema,
    sources: { type: 'array', maxItems: MOST.sources, items: sourceSchema },
    groups: { type: 'array', maxItems: MOST.groups, items: groupSchema },
    clips: { type: 'array', maxItems: MOST.clips, items: clipSchema },
    /** Forms of files that were saved. */
    presets: presetsSchema,
    /** Those of the film. */
    ...filmVersions,
  },
} as const;

/** A whole project. */
export type ProjectDocument = FromSchema<typeof projectDocumentSchema>;
