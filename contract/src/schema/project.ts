import type { FromSchema } from 'json-schema-to-ts';
import { mediaFactsSchema, sha256Schema } from './media';
import { rateSchema } from './rate';
import { timingSchema } from './timing';

/** The version this program writes. Older documents are migrated on load (`../migrate.ts`). */
export const PROJECT_VERSION = 1;

export const nameSchema = { type: 'string', minLength: 1, maxLength: 200, pattern: '\\S' } as const;
const idSchema = { type: 'string', pattern: '^[A-Za-z0-9_-]{1,64}$' } as const;

/**
 * A source: a media file brought into the project. `readAs` is the rate its frames are taken to have in place of the
 * file's own, as when 120 fps are read as 24.
 */
export const sourceSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'name', 'sha256', 'facts'],
  properties: { id: idSchema, name: nameSchema, sha256: sha256Schema, facts: mediaFactsSchema, readAs: rateSchema },
} as const;

export type Source = FromSchema<typeof sourceSchema>;

/** A clip: a source with a timing of its own, in output frames of the sequence's rate. */
export const clipSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['id', 'name', 'sourceId', 'timing'],
  properties: { id: idSchema, name: nameSchema, sourceId: idSchema, timing: timingSchema },
} as const;

export type Clip = FromSchema<typeof clipSchema>;

export const sequenceSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['rate'],
  properties: { rate: rateSchema },
} as const;

export const projectDocumentSchema = {
  $id: 'hastig:project',
  type: 'object',
  additionalProperties: false,
  required: ['version', 'name', 'sequence', 'sources', 'clips'],
  properties: {
    version: { const: PROJECT_VERSION },
    name: nameSchema,
    sequence: sequenceSchema,
    sources: { type: 'array', maxItems: 10_000, items: sourceSchema },
    clips: { type: 'array', maxItems: 10_000, items: clipSchema },
  },
} as const;

export type ProjectDocument = FromSchema<typeof projectDocumentSchema>;
