import { randomUUID } from 'node:crypto';
import {
  migrateProject,
  problemTypes,
  type PatchOperation,
  type ProjectDocument,
  type ProjectRevision,
  type ProjectSummary,
  type StoredProject,
} from '@hastig/contract';
import { integrityErrors } from '@hastig/core';
import jsonPatch, { type Operation } from 'fast-json-patch';
import type { Knex } from 'knex';
import { HttpProblem, invalid, notFound } from '../http/problem';

interface ProjectRow {
  id: string;
  document: unknown;
  revision: number;
  updated_at: Date;
}

interface SnapshotRow {
  project_id: string;
  revision: number;
  document: unknown;
  created_at: Date;
}

/** Revisions from one snapshot to the next: so many patches are applied at most to see an earlier state. */
const SNAPSHOT_EVERY = 100;
/** Revisions listed at most. */
const MOST_LISTED = 5000;

interface SummaryRow extends Omit<ProjectRow, 'document'> {
  name: string;
  sources: number;
  clips: number;
}

const uuid = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** Projects in the database: documents with a revision that rises with every change. */
export class ProjectStore {
  constructor(private readonly knex: Knex) {}

  /** Last changed first. */
  async list(): Promise<ProjectSummary[]> {
    const rows = await this.knex('projects')
      .select<SummaryRow[]>(
        'id',
        'revision',
        'updated_at',
        this.knex.raw(`document->>'name' as name`),
        this.knex.raw(`jsonb_array_length(document->'sources') as sources`),
        this.knex.raw(`jsonb_array_length(document->'clips') as clips`),
      )
      .orderBy('updated_at', 'desc');
    return rows.map(({ updated_at, ...row }) => ({ ...row, updatedAt: updated_at.toISOString() }));
  }

  async create(document: ProjectDocument): Promise<StoredProject> {
    const row = { id: randomUUID(), document: JSON.stringify(document), revision: 1 };
    return this.knex.transaction(async (transaction) => {
      const [made] = await transaction('projects').insert(row).returning<ProjectRow[]>('*');
      await keepSnapshot(transaction, row.id, 1, row.document);
      return fromRow(made!);
    });
  }

  async get(id: string): Promise<StoredProject> {
    return fromRow(await this.row(this.knex, id, false));
  }

  /**
   * Applies a JSON Patch to the document, if it starts from the current revision. All of it or nothing; when
   * this returns, it is on the disk.
   *
   * @returns the new revision
   * @throws HttpProblem 404; 409 with the current project when the revision is stale; 422 when the patch does not apply
   *   or its result is no valid document
   */
  async patch(id: string, revision: number, patch: PatchOperation[]): Promise<number> {
    return this.knex.transaction(async (transaction) => {
      const row = await this.row(transaction, id, true);
      if (row.revision !== revision) {
        throw new HttpProblem(409, 'The project has been changed elsewhere.', {
          type: problemTypes.stale,
          detail: `The change starts from revision ${revision}; the project is at ${row.revision}.`,
          current: fromRow(row),
        });
      }
      const current = fromRow(row).document;
      // Patches from here on are of the current version: the state they start from is kept in that version too.
      if ((row.document as ProjectDocument).version !== current.version) {
        await keepSnapshot(transaction, id, revision, JSON.stringify(current));
      }
      const document = wholeDocument(patched(current, patch));
      const next = revision + 1;
      await transaction('revisions').insert({ project_id: id, revision: next, patch: JSON.stringify(patch) });
      const changes = { document: JSON.stringify(document), revision: next, updated_at: transaction.fn.now() };
      await transaction('projects').where({ id }).update(changes);
      if (next % SNAPSHOT_EVERY === 0) await keepSnapshot(transaction, id, next, changes.document);
      return next;
    });
  }

  /** The states a project can be taken back to, the latest first. */
  async revisions(id: string): Promise<ProjectRevision[]> {
    await this.row(this.knex, id, false);
    const rows = (await this.knex
      .union(
        [
          this.knex('revisions').select('revision', 'created_at').where({ project_id: id }),
          this.knex('snapshots').select('revision', 'created_at').where({ project_id: id }),
        ],
        true,
      )
      .orderBy('revision', 'desc')
      .limit(MOST_LISTED)) as { revision: number; created_at: Date }[];
    const first = await this.snapshot(id, 0, '>');
    return rows
      .filter(({ revision }) => first && revision >= first.revision)
      .map(({ revision, created_at }) => ({ revision, at: created_at.toISOString() }));
  }

  /** A project as it was at a revision. Throws a problem where that is not known (any more). */
  async at(id: string, revision: number): Promise<StoredProject> {
    const current = await this.row(this.knex, id, false);
    const base = await this.snapshot(id, revision, '<=');
    if (!base || revision > current.revision) throw notFound('revision');
    const later = (await this.knex('revisions')
      .where({ project_id: id })
      .andWhere('revision', '>', base.revision)
      .andWhere('revision', '<=', revision)
      .orderBy('revision')) as { patch: PatchOperation[]; created_at: Date }[];
    // As they were written, in the version of the snapshot; the whole is migrated at the end.
    const document = later.reduce<unknown>((state, { patch }) => patched(state, patch), base.document);
    return fromRow({ id, document, revision, updated_at: later.at(-1)?.created_at ?? base.created_at });
  }

  // The last snapshot up to a revision, or the first one after it.
  private snapshot(id: string, revision: number, side: '<=' | '>'): Promise<SnapshotRow | undefined> {
    return this.knex<SnapshotRow>('snapshots')
      .where({ project_id: id })
      .andWhere('revision', side, revision)
      .orderBy('revision', side === '>' ? 'asc' : 'desc')
      .first() as Promise<SnapshotRow | undefined>;
  }

  async remove(id: string): Promise<void> {
    if (!uuid.test(id) || (await this.knex('projects').where({ id }).delete()) === 0) throw notFound('project');
  }

  private async row(knex: Knex, id: string, lock: boolean): Promise<ProjectRow> {
    if (!uuid.test(id)) throw notFound('project');
    const query = knex<ProjectRow>('projects').where({ id });
    const row = await (lock ? query.forUpdate() : query).first();
    if (!row) throw notFound('project');
    return row as ProjectRow;
  }
}

async function keepSnapshot(
  transaction: Knex.Transaction,
  id: string,
  revision: number,
  document: string,
): Promise<void> {
  await transaction('snapshots')
    .insert({ project_id: id, revision, document })
    .onConflict(['project_id', 'revision'])
    .merge(['document']);
}

function patched(document: unknown, patch: PatchOperation[]): unknown {
  try {
    return jsonPatch.applyPatch(document, patch as Operation[], true, false).newDocument;
  } catch (error) {
    const reason = (error as Error).message.split('\n')[0]!;
    throw invalid([{ pointer: '/patch', reason: `does not apply: ${reason}` }]);
  }
}

/** A document of any known version as the current one, if it is valid and whole. Throws a problem where it is not. */
export function wholeDocument(raw: unknown): ProjectDocument {
  const checked = migrateProject(raw);
  if (!checked.ok) throw invalid(checked.errors);
  const errors = integrityErrors(checked.value);
  if (errors.length > 0) throw invalid(errors.slice(0, 20));
  return checked.value;
}

function fromRow(row: ProjectRow): StoredProject {
  const checked = migrateProject(row.document);
  if (!checked.ok) {
    throw new HttpProblem(500, 'The stored project cannot be read by this version.', { errors: checked.errors });
  }
  return { id: row.id, revision: row.revision, updatedAt: row.updated_at.toISOString(), document: checked.value };
}
