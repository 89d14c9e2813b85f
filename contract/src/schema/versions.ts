import type { FromSchema } from 'json-schema-to-ts';
import { MOST } from './common';
import { clipSchema, versionsOf } from './clip';
import { bareGroupSchema, sequenceSchema } from './sequence';

const clips = { type: 'array', maxItems: MOST.clips, items: clipSchema } as const;
const { rate, tracks, markers } = bareGroupSchema.properties;

/** What lies in a group, with the groups its clips show, for where those are gone. */
const groupContentSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['rate', 'tracks', 'markers', 'clips', 'groups'],
  properties: {
    ...{ rate, tracks, markers, clips },
    groups: { type: 'array', maxItems: MOST.groups, items: bareGroupSchema },
  },
} as const;

export type GroupContent = FromSchema<typeof groupContentSchema>;

export const groupSchema = {
  ...bareGroupSchema,
  properties: { ...bareGroupSchema.properties, ...versionsOf(groupContentSchema) },
} as const;

export type Group = FromSchema<typeof groupSchema>;

/** A film: the sequence and all that lies in it. */
const filmContentSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['sequence', 'clips', 'groups'],
  properties: {
    ...{ sequence: sequenceSchema, clips },
    groups: { type: 'array', maxItems: MOST.groups, items: groupSchema },
  },
} as const;

export type FilmContent = FromSchema<typeof filmContentSchema>;

export const filmVersions = versionsOf(filmContentSchema);

/** A version of something that has such content. */
export interface Version<Content> {
  id: string;
  name: string;
  content: Content;
}

/** What has versions. */
export interface Versioned<Content> {
  liveVersion?: string;
  versions?: Version<Content>[];
}
