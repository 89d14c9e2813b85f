import type { JobKind, JobState, MachineFacts, PartTask, ProjectDocument, RenderOrder } from '@hastig/contract';

/** What a conversion is about. */
export interface ConversionOrder {
  sha256: string;
  /** What it is coded as, in words. */
  from: string;
}

export interface JobRow {
  id: string;
  /** One more than that of the job before. */
  number: number;
  kind: JobKind;
  state: JobState;
  priority: number;
  file: string;
  project_id: string | null;
  project: string;
  order: RenderOrder | ConversionOrder;
  document: ProjectDocument | null;
  /** Digests of the files it needs. */
  media: string[];
  /** How its pictures are coded, by its name: a machine must encode it. */
  needs: string | null;
  /** The browser that its parts are made by, once the first of several was begun. */
  browser: string | null;
  /** Frames; of what has none, hundredths. */
  total: number;
  message: string | null;
  /** A whole number; the database gives it as text. */
  bytes: string | null;
  made_at: Date;
  started_at: Date | null;
  ended_at: Date | null;
}

/** `held`: it waits for others of its job. */
export type PartState = 'held' | 'waiting' | 'running' | 'done';

export interface PartRow {
  id: string;
  job_id: string;
  number: number;
  /** What joins others knows them by their job. */
  task: Exclude<PartTask, { do: 'join' }> | { do: 'join' };
  state: PartState;
  lease: string | null;
  machine_id: string | null;
  heard_at: Date | null;
  done: number;
  frames_per_second: number;
  failures: number;
  losses: number;
  /** There was nothing to write. */
  nothing: boolean;
}

export interface MachineRow {
  id: string;
  name: string;
  key_hash: string;
  scopes: JobKind[];
  made_at: Date;
  heard_at: Date | null;
  out_at: Date | null;
  facts: MachineFacts | null;
  frames: string;
  seconds: number;
}

/** A job that is still to be done. */
export const openStates: readonly JobState[] = ['waiting', 'running', 'paused'];
