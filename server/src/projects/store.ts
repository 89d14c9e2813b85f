import { randomUUID } from 'node:crypto';
import {
  migrateProject,
  problemTypes,
  type PatchOperation,
  type ProjectDocument,
  type ProjectSummary,
  type StoredProject,
} from '@hastig/contract';
import jsonPatch, { type Operation } from 'fast-json-patch';
import type { Knex } from 'knex';
import { HttpProblem, invalid, notFound } from '../http/problem';

interface ProjectRow {
  id: string;
  document: unknown;
  revision: number;
  updated_at: Date;
}

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
    const [made] = await this.knex('projects').insert(row).returning<ProjectRow[]>('*');
    return fromRow(made!);
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
      const document = apply(row.document, patch);
      const next = revision + 1;
      await transaction('revisions').insert({ project_id: id, revision: next, patch: JSON.stringify(patch) });
      const changes = { document: JSON.stringify(document), revision: next, updated_at: transaction.fn.now() };
      await transaction('projects').where({ id }).update(changes);
      return next;
    });
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

function apply(document: unknown, patch: PatchOperation[]): ProjectDocument {
  let changed: unknown;
  try {
    changed = jsonPatch.applyPatch(document, patch as Operation[], true, false).newDocument;
  } catch (error) {
    const reason = (error as Error).message.split('\n')[0]!;
    throw invalid([{ pointer: '/patch', reason: `does not apply: ${reason}` }]);
  }
  const checked = migrateProject(changed);
  if (!checked.ok) throw invalid(checked.errors);
  return checked.value;
}

function fromRow(row: ProjectRow): StoredProject {
  const checked = migrateProject(row.document);
  if (!checked.ok) {
    throw new HttpProblem(500, 'The stored project cannot be read by this version.', { errors: checked.errors });
  }
  return { id: row.id, revision: row.revision, updatedAt: row.updated_at.toISOString(), document: checked.value };
}
