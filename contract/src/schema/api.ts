import { idSchema, LONGEST_NAME, nameSchema, textSchema } from './common';
import { projectDocumentSchema, type Counting, type ProjectDocument } from './project';

/** `POST /api/projects`: a new project, empty by name or from a whole document. */
export const newProjectSchema = {
  $id: 'hastig:new-project',
  type: 'object',
  additionalProperties: false,
  minProperties: 1,
  maxProperties: 1,
  properties: { name: nameSchema, document: projectDocumentSchema },
} as const;

export interface NewProject {
  name?: string;
  document?: ProjectDocument;
}

/** One operation of a JSON Patch (RFC 6902); the three the program's edits need. */
const patchOperationSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['op', 'path'],
  properties: {
    op: { enum: ['add', 'remove', 'replace'] },
    path: { ...textSchema(1000), pattern: '^(/[^/]*)*$' },
    value: {},
  },
  if: { properties: { op: { enum: ['add', 'replace'] } } },
  then: { required: ['value'] },
} as const;

export interface PatchOperation {
  op: 'add' | 'remove' | 'replace';
  path: string;
  value?: unknown;
}

/**
 * `PATCH /api/projects/:id`: operations and the revision they start from. `batch` names the change: sent again under the same
 * name, because its answer was lost, it gets the same answer and is not made twice.
 */
export const projectPatchSchema = {
  $id: 'hastig:project-patch',
  type: 'object',
  additionalProperties: false,
  required: ['revision', 'patch'],
  properties: {
    revision: { type: 'integer', minimum: 1 },
    patch: { type: 'array', minItems: 1, maxItems: 10_000, items: patchOperationSchema },
    batch: idSchema,
  },
} as const;

export interface ProjectPatch {
  revision: number;
  patch: PatchOperation[];
  batch?: string;
}

/** A project in the list. Times are ISO 8601. */
export interface ProjectSummary {
  id: string;
  name: string;
  revision: number;
  updatedAt: string;
  sources: number;
  clips: number;
  /** Length of the film. */
  seconds: number;
  /** Bytes of its media on the disk. */
  bytes: number;
  /** Media files that are not there, or not whole. */
  missing: number;
  picture: ProjectPicture | null;
}

/** The frame of a file that stands for a project. */
export interface ProjectPicture {
  sha256: string;
  bytes: number;
  stills: boolean;
  /** Frame of the file, as it is counted. */
  frame: number;
  counting: Counting;
}

/** A state a project was in, and when it came to it (ISO 8601). One with a name is kept however old it becomes. */
export interface ProjectRevision {
  revision: number;
  at: string;
  name?: string;
}

/** `PATCH /api/projects/<id>/revisions/<revision>`: its name; '' for none. */
export const versionNameSchema = {
  $id: 'hastig:version-name',
  type: 'object',
  additionalProperties: false,
  required: ['name'],
  properties: { name: textSchema(LONGEST_NAME) },
} as const;

export interface VersionName {
  name: string;
}

/** A whole project and the revision its document stands at. */
export interface StoredProject {
  id: string;
  revision: number;
  updatedAt: string;
  document: ProjectDocument;
}

/** `GET /api/projects/<id>/missing`: a list of these, files of its sources that are gone, each with the name of a source. */
export interface MissingMedia {
  sha256: string;
  name: string;
}

/** What a project file says it is. */
export const PROJECT_FILE_KIND = 'hastig-project';

/** A project as a file (`docs/formats.md`); the document may be of any known version. */
export const projectFileSchema = {
  type: 'object',
  required: ['kind', 'document'],
  properties: { kind: { const: PROJECT_FILE_KIND }, document: { type: 'object' } },
} as const;

export interface ProjectFile {
  kind: typeof PROJECT_FILE_KIND;
  document: unknown;
}
