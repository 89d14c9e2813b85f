import {
  derivedName,
  PROBLEM_MEDIA_TYPE,
  type DerivedKey,
  type JobChange,
  type JobLogLine,
  type JobSettings,
  type Machine,
  type MissingMedia,
  type NewJob,
  type NewMachine,
  type NewMachineKey,
  type NewProject,
  type PatchOperation,
  type Problem,
  type ProjectRevision,
  type ProjectSummary,
  type ServerJob,
  type StoredDerived,
  type StoredMedia,
  type StoredProject,
} from '@hastig/contract';

/** The server said no, and why. */
export class Refused extends Error {
  override readonly name = 'Refused';

  constructor(readonly problem: Problem & { current?: StoredProject }) {
    super(problem.detail ?? problem.title);
  }
}

/** The server could not be reached. */
export class Unreachable extends Error {
  override readonly name = 'Unreachable';

  constructor() {
    super('The server can’t be reached. Check that Hastig is running.');
  }
}

async function ask<T>(method: string, path: string, body?: unknown): Promise<T> {
  let answer: Response;
  try {
    answer = await fetch(`/api${path}`, {
      method,
      ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
    });
  } catch {
    throw new Unreachable();
  }
  if (answer.ok) return (answer.status === 204 ? undefined : await answer.json()) as T;
  if (answer.headers.get('Content-Type')?.startsWith(PROBLEM_MEDIA_TYPE))
    throw new Refused((await answer.json()) as Problem);
  throw new Refused({ type: 'about:blank', title: `The server answered ${answer.status}.`, status: answer.status });
}

/** What the client asks of the server. Throws Refused or Unreachable. */
export const api = {
  listProjects: () => ask<ProjectSummary[]>('GET', '/projects'),
  createProject: (project: NewProject) => ask<StoredProject>('POST', '/projects', project),
  createDemo: () => ask<StoredProject>('POST', '/demo'),
  /** The demo that is cut to music. */
  createMusicDemo: () => ask<StoredProject>('POST', '/demo/beats'),
  /** The clips with music, before anything is done. */
  createPathDemo: () => ask<StoredProject>('POST', '/demo/path'),
  getProject: (id: string) => ask<StoredProject>('GET', `/projects/${id}`),
  listMissing: (id: string) => ask<MissingMedia[]>('GET', `/projects/${id}/missing`),
  listRevisions: (id: string) => ask<ProjectRevision[]>('GET', `/projects/${id}/revisions`),
  getRevision: (id: string, revision: number) => ask<StoredProject>('GET', `/projects/${id}/revisions/${revision}`),
  nameRevision: (id: string, revision: number, name: string) =>
    ask<void>('PATCH', `/projects/${id}/revisions/${revision}`, { name }),
  removeProject: (id: string) => ask<void>('DELETE', `/projects/${id}`),
  removedProjects: () => ask<ProjectSummary[]>('GET', '/projects/removed'),
  restoreProject: (id: string) => ask<void>('POST', `/projects/removed/${id}`),
  purgeProject: (id: string) => ask<void>('DELETE', `/projects/removed/${id}`),
  /** @param batch a name for this change: asked again under the same one, the answer is the same and nothing is done twice */
  patchProject: (id: string, revision: number, patch: PatchOperation[], batch: string) =>
    ask<{ revision: number }>('PATCH', `/projects/${id}`, { revision, patch, batch }),
  projectFromUpload: (id: string) => ask<StoredProject>('POST', `/uploads/${id}/project`),
  /** Digests of all files that are stored. */
  listMedia: () => ask<string[]>('GET', '/media'),
  listDerived: () => ask<StoredDerived[]>('GET', '/derived'),
  removeDerived: (sha256: string, key: DerivedKey) => ask<void>('DELETE', `/derived/${sha256}/${derivedName(key)}`),
  listJobs: () => ask<ServerJob[]>('GET', '/jobs'),
  addJob: (job: NewJob) => ask<ServerJob>('POST', '/jobs', job),
  changeJob: (id: string, change: JobChange) => ask<ServerJob>('PATCH', `/jobs/${id}`, change),
  removeJob: (id: string) => ask<void>('DELETE', `/jobs/${id}`),
  jobLog: (id: string) => ask<JobLogLine[]>('GET', `/jobs/${id}/log`),
  /** What came of a job, stored as footage is. */
  jobMedia: (id: string) => ask<StoredMedia>('POST', `/jobs/${id}/media`),
  jobSettings: () => ask<JobSettings>('GET', '/jobs/settings'),
  setJobSettings: (settings: JobSettings) => ask<JobSettings>('PUT', '/jobs/settings', settings),
  listMachines: () => ask<Machine[]>('GET', '/machines'),
  addMachine: (machine: NewMachine) => ask<NewMachineKey>('POST', '/machines', machine),
  removeMachine: (id: string) => ask<void>('DELETE', `/machines/${id}`),
  finishUpload: (id: string) => ask<StoredMedia>('POST', `/uploads/${id}/media`),
};

/** Where a project is had as a file: alone, or with its media. */
export const projectFileAddress = (id: string): string => `/api/projects/${id}/file`;
export const projectArchiveAddress = (id: string): string => `/api/projects/${id}/archive`;

/** Where the file that came of a job is had, and where the list of jobs is told. */
export const jobFileAddress = (id: string): string => `/api/jobs/${id}/file`;
export const JOB_EVENTS = '/api/jobs/events';

export const UPLOAD_ENDPOINT = '/api/uploads';

/** Address of a stored file's content. */
export function mediaAddress(sha256: string): string {
  return `${globalThis.location.origin}/api/media/${sha256}`;
}

/** Address of something derived from a file; a slash and a number after it for one of its pieces. */
export function derivedAddress(sha256: string, key: DerivedKey): string {
  return `${globalThis.location.origin}/api/derived/${sha256}/${derivedName(key)}`;
}
