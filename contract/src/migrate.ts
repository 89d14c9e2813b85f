import { PROJECT_VERSION, type ProjectDocument } from './schema/project';
import { checkProjectDocument, type Checked } from './validate';

type Json = Record<string, unknown>;

/**
 * One step each, from the version of its index + 1 to the next. A step gets a valid document of its own
 * version and returns one of the next; it never changes what it was given.
 */
const steps: readonly ((document: Json) => Json)[] = [];

/**
 * Brings a document of any known version to the current one and checks it.
 *
 * @param raw a parsed project document
 * @returns the current document, or field errors: an unknown or newer version is an error of `/version`
 */
export function migrateProject(raw: unknown): Checked<ProjectDocument> {
  const version = (raw as Json | null)?.version;
  if (typeof version === 'number' && version > PROJECT_VERSION) {
    const reason = `is ${version}, made by a newer Hastig; this one reads up to ${PROJECT_VERSION}`;
    return { ok: false, errors: [{ pointer: '/version', reason }] };
  }
  let document = raw as Json;
  if (typeof version === 'number' && Number.isInteger(version) && version >= 1) {
    for (const step of steps.slice(version - 1)) document = step(document);
  }
  return checkProjectDocument(document);
}
