import {
  jobChangeSchema,
  jobSettingsSchema,
  machineFactsSchema,
  newJobSchema,
  newMachineSchema,
  partDoneSchema,
  partFailedSchema,
  partHeardSchema,
  type JobChange,
  type JobSettings,
  type MachineFacts,
  type NewJob,
  type NewMachine,
  type PartDone,
  type PartFailed,
  type PartHeard,
} from './schema/jobs';
import { effectsSchema, type Effect } from './schema/effects';
import { exposuresSchema, type ExposureStep } from './schema/exposure';
import { Ajv, type ErrorObject, type ValidateFunction } from 'ajv';
import { interpreted, mayMakeCode } from './interpreted';
import type { FieldError } from './problem';
import { TEXT_FORMAT } from './schema/common';
import { isText } from './text';
import {
  newProjectSchema,
  projectFileSchema,
  projectPatchSchema,
  versionNameSchema,
  type NewProject,
  type ProjectFile,
  type ProjectPatch,
  type VersionName,
} from './schema/api';
import { masterSchema, trackSoundSchema, type Master, type TrackSound } from './schema/sound';
import { clipSchema, type Clip } from './schema/clip';
import { projectDocumentSchema, type ProjectDocument } from './schema/project';
import { mediaFactsSchema, type MediaFacts } from './schema/media';
import { outputFormSchema, type OutputForm } from './schema/output';
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

const options = {
  strict: true,
  allowUnionTypes: true,
  strictRequired: false,
  formats: { [TEXT_FORMAT]: isText },
} as const;
// Most of what is checked is right. What is not is looked at once more for all that is wrong with it, unless there is so much
// of it that the errors alone would fill the memory: then the first one has to do.
const first = once(() => new Ajv(options));
const every = once(() => new Ajv({ ...options, allErrors: true }));

/** What is made when it is first asked for: many who load this check nothing. */
function once<T>(make: () => T): () => T {
  let made: T | undefined;
  return () => (made ??= make());
}

/** Values (numbers, texts, objects …) in something wrong of which every error is named. */
const MOST_EXPLAINED = 20_000;
/** Errors told at most. */
const MOST_ERRORS = 20;

/** The outcome of a check: the value with its type, or what is wrong with it, field by field. */
export type Checked<T> = { ok: true; value: T } | { ok: false; errors: FieldError[] };

function reasonOf(error: ErrorObject): string {
  switch (error.keyword) {
    case 'required':
      return 'is missing';
    case 'additionalProperties':
      return 'isn’t a known field';
    case 'enum':
      return `must be one of ${JSON.stringify(error.params.allowedValues)}`;
    case 'const':
      return `must be ${JSON.stringify(error.params.allowedValue)}`;
    case 'format':
      return 'contains a character that can’t be stored';
    case 'type':
      return `must be ${[error.params.type].flat().join(' or ')}`;
    default:
      return error.message ?? 'isn’t valid';
  }
}

function pointerOf(error: ErrorObject): string {
  const inner = error.params.missingProperty ?? error.params.additionalProperty;
  return inner === undefined ? error.instancePath : `${error.instancePath}/${inner}`;
}

function isSmall(value: unknown): boolean {
  let left = MOST_EXPLAINED;
  const open = [value];
  while (open.length > 0) {
    const next = open.pop();
    if (--left < 0) return false;
    if (next === null || typeof next !== 'object') continue;
    const inner = Array.isArray(next) ? next : Object.values(next);
    if (inner.length > left) return false;
    for (const one of inner) open.push(one);
  }
  return true;
}

/** Checks a value against a shape. */
export type Check<T> = (value: unknown) => Checked<T>;

type Node = Record<string, unknown>;

const isLarge = (node: unknown): node is Node =>
  typeof node === 'object' && node !== null && 'type' in node && ('properties' in node || 'items' in node);

/** A schema whose large parts that stand in several places stand once, among its definitions: code is made of each only once. */
function withShared(schema: object): object {
  const seen = new Map<object, number>();
  const count = (node: unknown): void => {
    if (typeof node !== 'object' || node === null) return;
    const times = (seen.get(node) ?? 0) + 1;
    seen.set(node, times);
    if (times === 1) Object.values(node).forEach(count);
  };
  count(schema);
  const definitions: Node = {};
  const names = new Map<object, string>();
  const built = (node: unknown): unknown => {
    if (Array.isArray(node)) return node.map(built);
    if (typeof node !== 'object' || node === null) return node;
    if (node === schema || !isLarge(node) || seen.get(node)! < 2) return inside(node);
    let name = names.get(node);
    if (name === undefined) {
      name = `part${names.size}`;
      names.set(node, name);
      definitions[name] = inside(node);
    }
    return { $ref: `#/$defs/${name}` };
  };
  const inside = (node: object): Node =>
    Object.fromEntries(Object.entries(node).map(([key, value]) => [key, built(value)]));
  const whole = inside(schema);
  return names.size > 0 ? { ...whole, $defs: definitions } : whole;
}

/** A check against a JSON Schema, compiled when it is first asked for. */
export function checker<T>(schema: object): Check<T> {
  let [quick, full]: (ValidateFunction | undefined)[] = [];
  let slow: ReturnType<typeof interpreted> | undefined;
  return (value) => {
    if (!mayMakeCode()) {
      slow ??= interpreted(withoutIds(schema) as object);
      const error = slow(value);
      return error ? { ok: false, errors: [error] } : { ok: true, value: value as T };
    }
    quick ??= first().compile(withoutIds(withShared(schema)) as object);
    if (quick(value)) return { ok: true, value: value as T };
    let found = quick.errors;
    if (isSmall(value)) {
      full ??= every().compile(withoutIds(withShared(schema)) as object);
      full(value);
      found = full.errors;
    }
    const errors = (found ?? [])
      .filter((error) => error.keyword !== 'if')
      .slice(0, MOST_ERRORS)
      .map((error) => ({ pointer: pointerOf(error), reason: reasonOf(error) }));
    return { ok: false, errors };
  };
}

export const checkMapFile = checker<RetimeMap>(mapFileSchema);
export const checkProjectDocument: Check<ProjectDocument> = checker(projectDocumentSchema);
export const checkClip = checker<Clip>(clipSchema);
export const checkTrackSound = checker<TrackSound>(trackSoundSchema);
export const checkExposures = checker<ExposureStep[]>(exposuresSchema);
export const checkEffects = checker<Effect[]>(effectsSchema);
export const checkMaster = checker<Master>(masterSchema);
export const checkMediaFacts = checker<MediaFacts>(mediaFactsSchema);
export const checkProjectFile = checker<ProjectFile>(projectFileSchema);
export const checkNewProject = checker<NewProject>(newProjectSchema);
export const checkProjectPatch = checker<ProjectPatch>(projectPatchSchema);
export const checkOutputForm = checker<OutputForm>(outputFormSchema);
export const checkNewJob = checker<NewJob>(newJobSchema);
export const checkJobChange = checker<JobChange>(jobChangeSchema);
export const checkJobSettings = checker<JobSettings>(jobSettingsSchema);
export const checkNewMachine = checker<NewMachine>(newMachineSchema);
export const checkMachineFacts = checker<MachineFacts>(machineFactsSchema);
export const checkPartHeard = checker<PartHeard>(partHeardSchema);
export const checkPartDone = checker<PartDone>(partDoneSchema);
export const checkPartFailed = checker<PartFailed>(partFailedSchema);
export const checkVersionName = checker<VersionName>(versionNameSchema);

/** Field errors as one readable line: `spans/0/frames must be > 0; start is missing`. */
export function describeErrors(errors: readonly FieldError[]): string {
  return errors.map(({ pointer, reason }) => `${pointer.replace(/^\//, '') || 'the file'} ${reason}`).join('; ');
}
