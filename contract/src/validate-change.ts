import type { FieldError } from './problem';
import { groupSchema, markerSchema, trackSchema } from './schema/sequence';
import { clipSchema, projectDocumentSchema, sourceSchema, type ProjectDocument } from './schema/project';
import { checker, type Check, type Checked } from './validate';

const anything = {} as const;
const { sequence, sources, groups, clips } = projectDocumentSchema.properties;

/** A document's schema with nothing said of what its long lists hold. */
const shell = checker<ProjectDocument>({
  ...projectDocumentSchema,
  properties: {
    ...projectDocumentSchema.properties,
    sources: { ...sources, items: anything },
    groups: { ...groups, items: anything },
    clips: { ...clips, items: anything },
    sequence: {
      ...sequence,
      properties: {
        ...sequence.properties,
        tracks: { ...sequence.properties.tracks, items: anything },
        markers: { ...sequence.properties.markers, items: anything },
      },
    },
  },
});

interface Part {
  pointer: string;
  listOf(document: ProjectDocument): readonly unknown[];
  check: Check<unknown>;
}

const parts: readonly Part[] = [
  { pointer: '/sources', listOf: ({ sources }) => sources, check: checker(sourceSchema) },
  { pointer: '/groups', listOf: ({ groups }) => groups, check: checker(groupSchema) },
  { pointer: '/clips', listOf: ({ clips }) => clips, check: checker(clipSchema) },
  { pointer: '/sequence/tracks', listOf: ({ sequence }) => sequence.tracks, check: checker(trackSchema) },
  { pointer: '/sequence/markers', listOf: ({ sequence }) => sequence.markers, check: checker(markerSchema) },
];

/**
 * Checks a document that came of one that is valid: the same outcome as `checkProjectDocument`, but only what is not the
 * very same object as before is looked at.
 *
 * @param before valid, and not changed since it was checked
 * @param after shares what did not change with `before`
 */
export function checkChangedDocument(before: ProjectDocument, after: unknown): Checked<ProjectDocument> {
  const checked = shell(after);
  if (!checked.ok) return checked;
  const errors: FieldError[] = [];
  for (const { pointer, listOf, check } of parts) {
    const list = listOf(checked.value);
    if (list === listOf(before)) continue;
    const known = new Set(listOf(before));
    for (const [index, one] of list.entries()) {
      if (known.has(one)) continue;
      const checked = check(one);
      if (checked.ok) continue;
      for (const { pointer: inner, reason } of checked.errors)
        errors.push({ pointer: `${pointer}/${index}${inner}`, reason });
      if (errors.length >= 20) return { ok: false, errors: errors.slice(0, 20) };
    }
  }
  return errors.length === 0 ? checked : { ok: false, errors };
}
