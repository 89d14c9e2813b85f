import type { FromSchema } from 'json-schema-to-ts';
import { idSchema, MOST_FRAMES, nameSchema, textSchema } from './common';
import { outputFormSchema, type OutputForm } from './output';
import type { ProjectDocument } from './project';

/** What the server has done: a film or clip rendered, or a file converted. */
export const jobKinds = ['render', 'convert'] as const;
export type JobKind = (typeof jobKinds)[number];

export const jobStates = ['waiting', 'running', 'paused', 'done', 'failed', 'cancelled'] as const;
export type JobState = (typeof jobStates)[number];

/** What is done first: the higher one. */
const prioritySchema = { type: 'integer', enum: [-1, 0, 1] } as const;

const sha256Schema = { type: 'string', pattern: '^[0-9a-f]{64}$' } as const;
const frameSchema = { type: 'number', minimum: 0, maximum: MOST_FRAMES } as const;

/** What of a project becomes a file: a clip by itself, or the film, or a stretch of it in its frames. */
export const renderOrderSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['projectId', 'revision', 'file', 'form', 'span'],
  properties: {
    projectId: idSchema,
    revision: { type: 'integer', minimum: 1, maximum: 2 ** 31 - 1 },
    file: nameSchema,
    form: outputFormSchema,
    clipId: idSchema,
    span: {
      type: 'object',
      additionalProperties: false,
      required: ['from', 'to'],
      properties: { from: frameSchema, to: frameSchema, name: textSchema(200) },
    },
  },
} as const;

export type RenderOrder = FromSchema<typeof renderOrderSchema>;

/** A file that was uploaded and that browsers don't decode. */
export const convertOrderSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['uploadId', 'file'],
  properties: { uploadId: idSchema, file: nameSchema, projectId: idSchema },
} as const;

export type ConvertOrder = FromSchema<typeof convertOrderSchema>;

/** `POST /api/jobs`: one of both. */
export const newJobSchema = {
  type: 'object',
  additionalProperties: false,
  oneOf: [{ required: ['render'] }, { required: ['convert'] }],
  properties: { render: renderOrderSchema, convert: convertOrderSchema, priority: prioritySchema },
} as const;

/** Hours of a file that is converted, at most. */
export const MOST_CONVERTED_HOURS = 4;

export interface NewJob {
  render?: RenderOrder;
  convert?: ConvertOrder;
  priority?: number;
}

/** `PATCH /api/jobs/<id>`: another priority; or that it waits, goes on (also one that failed or was cancelled), or ends. */
export const jobChangeSchema = {
  type: 'object',
  additionalProperties: false,
  minProperties: 1,
  properties: { priority: prioritySchema, state: { enum: ['waiting', 'paused', 'cancelled'] } },
} as const;

export type JobChange = FromSchema<typeof jobChangeSchema>;

/** A job in the list. Times are ISO 8601. */
export interface ServerJob {
  id: string;
  kind: JobKind;
  /** What its file is called. */
  file: string;
  /** The project it is for, and what that was called. */
  projectId: string | null;
  project: string;
  priority: number;
  state: JobState;
  madeAt: string;
  startedAt: string | null;
  endedAt: string | null;
  /** Frames done and in all; of what has none, hundredths. */
  done: number;
  total: number;
  /** Of all machines that work on it. */
  framesPerSecond: number;
  /** Parts done and in all; null once the file is there. */
  parts: { done: number; all: number } | null;
  /** How its pictures are coded, by its name: only machines that encode it work on it. */
  needs: string | null;
  /** Names of the machines that work on it. */
  machines: string[];
  /** Why it failed. */
  message: string | null;
  /** Bytes of its file, once it is there. */
  bytes: number | null;
  form: OutputForm | null;
}

/** A line of a job's log. */
export interface JobLogLine {
  at: string;
  machine: string | null;
  text: string;
}

/** What a machine can do, as it says itself. */
export const machineFactsSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['cores', 'codecs', 'can'],
  properties: {
    cores: { type: 'integer', minimum: 1, maximum: 4096 },
    codecs: { type: 'array', maxItems: 50, items: textSchema(50) },
    can: { type: 'array', maxItems: 2, items: { enum: jobKinds } },
    browser: textSchema(200),
  },
} as const;

export type MachineFacts = FromSchema<typeof machineFactsSchema>;

/** `POST /api/machines`: lets one in, for what its key is good for; the server's own in place of the one of its name before. */
export const newMachineSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['name'],
  properties: {
    name: nameSchema,
    scopes: { type: 'array', minItems: 1, maxItems: 2, items: { enum: jobKinds } },
    own: { type: 'boolean' },
  },
} as const;

export type NewMachine = FromSchema<typeof newMachineSchema>;

/** Seconds after which a machine that was not heard is taken to be gone. */
export const MACHINE_GONE = 60;

/** A machine that helps. */
export interface Machine {
  id: string;
  name: string;
  scopes: JobKind[];
  /** When it was let in, and last heard. */
  madeAt: string;
  heardAt: string | null;
  facts: MachineFacts | null;
  /** Frames a second that it made so far, while it worked. */
  framesPerSecond: number | null;
  /** What it works on. */
  file: string | null;
}

/** A machine that was let in, and its key, which is told this once. */
export interface NewMachineKey {
  machine: Machine;
  key: string;
}

/** `PUT /api/jobs/settings`: parts that are worked on at once, at most. */
export const jobSettingsSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['atOnce'],
  properties: { atOnce: { type: 'integer', minimum: 1, maximum: 1000 } },
} as const;

export type JobSettings = FromSchema<typeof jobSettingsSchema>;

/** What a part of a job is: some of a film's pictures, its sound, all parts joined, or all of the file at once. */
export type PartTask =
  | { do: 'pictures'; from: number; to: number }
  | { do: 'sound' }
  | { do: 'join'; pictures: string[]; sound: string | null }
  | { do: 'whole' }
  | { do: 'convert'; sha256: string };

/** What a machine is given to do. Whoever does not name the lease isn't heard. */
export interface TakenPart {
  id: string;
  lease: string;
  file: string;
  task: PartTask;
  /** Of a render. */
  order?: RenderOrder & { document: ProjectDocument };
  /** Files it needs: what they are known by, and the digest of what is fetched, which is another where they were converted. */
  media: { sha256: string; digest: string }[];
}

/** `POST /api/worker/parts/<id>/heard`: how far it is. */
export const partHeardSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['lease', 'done', 'framesPerSecond'],
  properties: {
    lease: idSchema,
    done: { type: 'number', minimum: 0, maximum: MOST_FRAMES },
    framesPerSecond: { type: 'number', minimum: 0, maximum: 1e6 },
  },
} as const;

export type PartHeard = FromSchema<typeof partHeardSchema>;

/** What a machine is told: to go on, to wait, or to leave it. */
export type PartWish = 'on' | 'pause' | 'stop';

/** `POST /api/worker/parts/<id>/done`: all of its file was sent. `nothing`: there is no sound to be written. */
export const partDoneSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['lease', 'bytes', 'frames', 'took'],
  properties: {
    lease: idSchema,
    bytes: { type: 'integer', minimum: 0 },
    sha256: sha256Schema,
    nothing: { type: 'boolean' },
    frames: { type: 'integer', minimum: 0, maximum: MOST_FRAMES },
    took: { type: 'number', minimum: 0 },
  },
} as const;

export type PartDone = FromSchema<typeof partDoneSchema>;

/** `POST /api/worker/parts/<id>/failed`: why, and whether another try may go well. */
export const partFailedSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['lease', 'message', 'again'],
  properties: { lease: idSchema, message: textSchema(2000), again: { type: 'boolean' } },
} as const;

export type PartFailed = FromSchema<typeof partFailedSchema>;
