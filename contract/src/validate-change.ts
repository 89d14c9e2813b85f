import type { FieldError } from './problem';
import { itemSchema, markerSchema, trackSchema } from './schema/sequence';
import type { Track, TrackItem } from './schema/sequence';
import { clipSchema } from './schema/clip';
import { projectDocumentSchema, sourceSchema, type ProjectDocument } from './schema/project';
import { filmVersions, groupSchema } from './schema/versions';
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
    versions: { ...filmVersions.versions, items: anything },
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

const checkTrack = checker<Track>({
  ...trackSchema,
  properties: { ...trackSchema.properties, items: { ...trackSchema.properties.items, items: anything } },
});
const checkItem = checker<TrackItem>(itemSchema);
/** Items that were looked at; a row of thousands is made anew with every edit, of the very same items. */
const soundItems = new WeakSet<object>();

/** A track, of whose items only those are looked at that were not before. */
function checkRow(track: unknown): Checked<unknown> {
  const row = checkTrack(track);
  if (!row.ok) return row;
  const errors: FieldError[] = [];
  row.value.items.forEach((item: unknown, index) => {
    if (typeof item === 'object' && item !== null && soundItems.has(item)) return;
    const checked = checkItem(item);
    if (checked.ok) soundItems.add(checked.value);
    else if (errors.length < 20)
      errors.push(...checked.errors.map(({ pointer, reason }) => ({ pointer: `/items/${index}${pointer}`, reason })));
  });
  return errors.length === 0 ? row : { ok: false, errors };
}

const parts: readonly Part[] = [
  { pointer: '/sources', listOf: ({ sources }) => sources, check: checker(sourceSchema) },
  { pointer: '/groups', listOf: ({ groups }) => groups, check: checker(groupSchema) },
  { pointer: '/clips', listOf: ({ clips }) => clips, check: checker(clipSchema) },
  {
    pointer: '/versions',
    listOf: ({ versions }) => versions ?? [],
    check: checker(filmVersions.versions.items),
  },
  { pointer: '/sequence/tracks', listOf: ({ sequence }) => sequence.tracks, check: checkRow },
  { pointer: '/sequence/markers', listOf: ({ sequence }) => sequence.markers, check: checker(markerSchema) },
];

const { tracks, markers } = sequence.properties;

// One thing stands for all of a list: that nothing is said of each is seen at one as well as at twenty thousand.
const oneOf = (list: unknown, most: number): unknown =>
  Array.isArray(list) && list.length <= most ? list.slice(0, 1) : list;

function withoutThings(document: unknown): unknown {
  if (typeof document !== 'object' || document === null) return document;
  const whole = document as Partial<ProjectDocument>;
  const lists = { sources: sources.maxItems, groups: groups.maxItems, clips: clips.maxItems } as const;
  const bare: Record<string, unknown> = { ...whole };
  for (const [name, most] of Object.entries(lists)) if (name in bare) bare[name] = oneOf(bare[name], most);
  if (typeof whole.sequence !== 'object' || whole.sequence === null) return bare;
  return {
    ...bare,
    sequence: {
      ...whole.sequence,
      ...('tracks' in whole.sequence && { tracks: oneOf(whole.sequence.tracks, tracks.maxItems) }),
      ...('markers' in whole.sequence && { markers: oneOf(whole.sequence.markers, markers.maxItems) }),
    },
  };
}

/**
 * Checks a document that came of one that is valid: the same outcome as `checkProjectDocument`, but only what is not the
 * very same object as before is looked at.
 *
 * @param before valid, and not changed since it was checked
 * @param after shares what did not change with `before`
 */
export function checkChangedDocument(before: ProjectDocument, after: unknown): Checked<ProjectDocument> {
  const bare = shell(withoutThings(after));
  if (!bare.ok) return bare;
  const checked: Checked<ProjectDocument> = { ok: true, value: after as ProjectDocument };
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
