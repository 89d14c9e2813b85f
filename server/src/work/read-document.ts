import {
  checkNewProject,
  checkProjectFile,
  migrateProject,
  type Checked,
  type FieldError,
  type ProjectDocument,
} from '@hastig/contract';
import { isTooDeep } from '../files/depth';
import { integrityErrors, newProject } from '@hastig/core';

/** A valid document as it is kept, with what is asked of it without reading it again. */
export interface ReadyDocument {
  json: string;
  name: string;
  sources: number;
  clips: number;
  /** The files it needs, each once, with the name of a source made of it. */
  media: { name: string; sha256: string; /** What it was before it was converted. */ converted?: string }[];
}

export type ReadOutcome = { ready: ReadyDocument } | { errors: FieldError[] } | { noJson: string };

/** What the text is: the body of `POST /api/projects`, or a project file. */
export type DocumentKind = 'new' | 'file';

/** A document that is known to be valid, made ready to be kept. */
export function readyDocument(document: ProjectDocument): ReadyDocument {
  const { name, sources, clips } = document;
  const media = new Map(
    sources.map(({ name, sha256, facts: { converted } }) => [
      sha256,
      { name, sha256, ...(converted && { converted: converted.from }) },
    ]),
  );
  return {
    ...{ json: JSON.stringify(document), name, sources: sources.length, clips: clips.length },
    media: [...media.values()],
  };
}

/** A document of any known version as the current one, if it is valid and whole. */
function checkWhole(raw: unknown): Checked<ProjectDocument> {
  const checked = migrateProject(raw);
  if (!checked.ok) return checked;
  const errors = integrityErrors(checked.value);
  return errors.length === 0 ? checked : { ok: false, errors: errors.slice(0, 20) };
}

const parents: Record<DocumentKind, (json: unknown) => Checked<unknown>> = {
  new: (json) => {
    const checked = checkNewProject(json);
    if (!checked.ok) return checked;
    const { name, document } = checked.value;
    return { ok: true, value: document ?? newProject(name!.trim()) };
  },
  file: (json) => {
    const checked = checkProjectFile(json);
    return checked.ok ? { ok: true, value: checked.value.document } : checked;
  },
};

/** Reads a project that came as text. */
export function readDocument(text: string, kind: DocumentKind): ReadOutcome {
  if (isTooDeep(text)) return { errors: [{ pointer: '', reason: 'is nested too deep' }] };
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    return { noJson: (error as Error).message };
  }
  const found = parents[kind](json);
  const checked = found.ok ? checkWhole(found.value) : found;
  return checked.ok ? { ready: readyDocument(checked.value) } : { errors: checked.errors };
}
