import { Ajv, type ErrorObject, type ValidateFunction } from 'ajv';
import type { FieldError } from './problem';
import {
  newProjectSchema,
  projectFileSchema,
  projectPatchSchema,
  type NewProject,
  type ProjectFile,
  type ProjectPatch,
} from './schema/api';
import { clipSchema, projectDocumentSchema, type Clip, type ProjectDocument } from './schema/project';
import { mapFileSchema, type RetimeMap } from './schema/timing';

// The same rate and span schemas are inlined in several documents; Ajv must not see their ids twice.
function withoutIds(schema: unknown): unknown {
  if (Array.isArray(schema)) return schema.map(withoutIds);
  if (schema === null || typeof schema !== 'object') return schema;
  return Object.fromEntries(
    Object.entries(schema)
      .filter(([key, value]) => !(key === '$id' && typeof value === 'string'))
      .map(([key, value]) => [key, withoutIds(value)]),
  );
}

const ajv = new Ajv({ allErrors: true, strict: true, allowUnionTypes: true, strictRequired: false });

/** The outcome of a check: the value with its type, or what is wrong with it, field by field. */
export type Checked<T> = { ok: true; value: T } | { ok: false; errors: FieldError[] };

function reasonOf(error: ErrorObject): string {
  switch (error.keyword) {
    case 'required':
      return 'is missing';
    case 'additionalProperties':
      return 'is not a known field';
    case 'enum':
      return `must be one of ${JSON.stringify(error.params.allowedValues)}`;
    case 'const':
      return `must be ${JSON.stringify(error.params.allowedValue)}`;
    case 'type':
      return `must be ${[error.params.type].flat().join(' or ')}`;
    default:
      return error.message ?? 'is not valid';
  }
}

function pointerOf(error: ErrorObject): string {
  const inner = error.params.missingProperty ?? error.params.additionalProperty;
  return inner === undefined ? error.instancePath : `${error.instancePath}/${inner}`;
}

function checker<T>(schema: object): (value: unknown) => Checked<T> {
  let validate: ValidateFunction | undefined;
  return (value) => {
    validate ??= ajv.compile(withoutIds(schema) as object);
    if (validate(value)) return { ok: true, value: value as T };
    const errors = (validate.errors ?? [])
      .filter((error) => error.keyword !== 'if')
      .slice(0, 20)
      .map((error) => ({ pointer: pointerOf(error), reason: reasonOf(error) }));
    return { ok: false, errors };
  };
}

export const checkMapFile = checker<RetimeMap>(mapFileSchema);
export const checkProjectDocument = checker<ProjectDocument>(projectDocumentSchema);
export const checkClip = checker<Clip>(clipSchema);
export const checkProjectFile = checker<ProjectFile>(projectFileSchema);
export const checkNewProject = checker<NewProject>(newProjectSchema);
export const checkProjectPatch = checker<ProjectPatch>(projectPatchSchema);

/** Field errors as one readable line: `spans/0/frames must be > 0; start is missing`. */
export function describeErrors(errors: readonly FieldError[]): string {
  return errors.map(({ pointer, reason }) => `${pointer.replace(/^\//, '') || 'the file'} ${reason}`).join('; ');
}
