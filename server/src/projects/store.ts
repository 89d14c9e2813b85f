import { randomUUID } from 'node:crypto';
import {
  checkChangedDocument,
  migrateProject,
  problemTypes,
  PROJECT_VERSION,
  type PatchOperation,
  type ProjectDocument,
  type ProjectPatch,
  type ProjectRevision,
  type ProjectSummary,
  type StoredProject,
} from '@hastig/contract';
import { integrityErrorsOfChange, projectSummary } from '@hastig/core';
import type { Knex } from 'knex';
import { LRUCache } from 'lru-cache';
import { uuid } from '../http/checked';
import { HttpProblem, invalid, notFound } from '../http/problem';
import type { ReadyDocument } from '../work/read-document';
import { patched } from './patched';
import { thinProject } from './thin';
import { keepUses } from './uses';
import { nameVersion, versionNames } from './version-names';

interface ProjectRow {
  id: string;
  name: string;
  sources: number;
  clips: number;
  revision: number;
  updated_at: Date;
  seconds: number | null;
  picture: ProjectSummary['picture'];
  told_revision: number | null;
}

/** A project in the list, with the digests of its files; whether those are there the media store knows. */
export type ListedProject = Omit<ProjectSummary, 'bytes' | 'missing'> & { media: string[] };

interface UsedFile {
  project_id: string;
  sha256: string;
}

/** Milliseconds for which a removed project can be brought back: a week. */
const KEPT_REMOVED = 7 * 86_400_000;

interface SnapshotRow {
  project_id: string;
  revision: number;
  document: unknown;
  created_at: Date;
}

/** Revisions from one snapshot to the next: about so many patches are applied at most to see a state. */
const SNAPSHOT_EVERY = 100;
/** Revisions listed at most. */
const MOST_LISTED = 5000;
/** Documents held ready, the last used; each is some megabytes at the most. */
const MOST_HELD = 16;
/** Characters of a patch that no database keeps: NUL, and one half of a pair (RFC 8259, 8.2), as JSON writes them. */
const unkept = /(?<!\\)(?:\\\\)*\\u(?:0000|d[89a-f][0-9a-f]{2})/i;

interface Held {
  revision: number;
  document: ProjectDocument;
}

/**
 * Projects in the database: documents with a revision that rises with every change. A document is the last snapshot and the
 * patches since; the ones in use are held ready, valid and never changed in place.
 */
export class ProjectStore {
  private readonly held = new LRUCache<string, Held>({ max: MOST_HELD });
  private keeping: Promise<void> = Promise.resolve();

  constructor(private readonly knex: Knex) {}

  /**
   * Last changed first.
   *
   * @param removed those that were removed and can still come back, in place of those that are there
   */
  async list(removed = false): Promise<ListedProject[]> {
    const query = this.knex<ProjectRow>('projects').orderBy('updated_at', 'desc');
    const rows = await (removed ? query.whereNotNull('removed_at') : query.whereNull('removed_at'));
    const used = (await this.knex('uses').whereNull('until').select('project_id', 'sha256')) as UsedFile[];
    const files = new Map<string, string[]>();
    for (const { project_id, sha256 } of used) files.set(project_id, [...(files.get(project_id) ?? []), sha256]);
    const listed: ListedProject[] = [];
    for (const row of rows) {
      const { id, name, revision, sources, clips, updated_at } = row;
      const { seconds, picture } = await this.told(row);
      listed.push({
        ...{ id, name, revision, sources, clips, seconds, picture, updatedAt: updated_at.toISOString() },
        media: files.get(id) ?? [],
      });
    }
    return listed;
  }

  // Found anew only once a project is another one: a list of hundreds reads no document.
  private async told(row: ProjectRow): Promise<Pick<ProjectSummary, 'seconds' | 'picture'>> {
    const { id, revision, told_revision, seconds, picture } = row;
    if (told_revision === revision) return { seconds: seconds ?? 0, picture };
    try {
      const { document } = await this.current(this.knex, row);
      const found = projectSummary(document);
      await this.knex('projects')
        .where({ id, revision })
        .update({ seconds: found.seconds, picture: JSON.stringify(found.picture), told_revision: revision });
      return found;
    } catch (error) {
      // One that can't be read is listed all the same; why it can't is told to who opens it.
      console.error(`Project ${id} could not be looked at for the list:`, error);
      return { seconds: seconds ?? 0, picture };
    }
  }

  /** Keeps a new project. @returns all of it but the document, which is the one that was given */
  async create({ json, name, sources, clips, media }: ReadyDocument): Promise<Omit<StoredProject, 'document'>> {
    const row = { id: randomUUID(), name, sources, clips, revision: 1 };
    return this.knex.transaction(async (transaction) => {
      const [made] = await transaction('projects').insert(row).returning<ProjectRow[]>('*');
      await keepSnapshot(transaction, row.id, 1, json);
      await keepUses(transaction, row.id, 1, digestsOf(media));
      return { id: row.id, revision: 1, updatedAt: made!.updated_at.toISOString() };
    });
  }

  async get(id: string): Promise<StoredProject> {
    const row = await this.row(this.knex, id, false);
    const { revision, document, fromOlder } = await this.current(this.knex, row);
    if (fromOlder) await keepSnapshot(this.knex, id, revision, JSON.stringify(document));
    this.hold(id, { revision, document });
    return stored(row, document);
  }

  /**
   * Applies a JSON Patch to the document, if it starts from the current revision. All of it or nothing; when
   * this returns, it is on the disk.
   *
   * @returns the new revision, or the one that a batch of this name has led to already
   * @throws HttpProblem 404; 409 with the current project when the revision is stale; 422 when the patch does not apply
   *   or its result is no valid document
   */
  async patch(id: string, { revision, patch, batch }: ProjectPatch): Promise<number> {
    const text = JSON.stringify(patch);
    if (unkept.test(text)) throw invalid([{ pointer: '/patch', reason: 'contains a character that can’t be stored' }]);
    const next = await this.knex.transaction(async (transaction) => {
      const row = await this.row(transaction, id, true);
      const made = batch && (await transaction('revisions').where({ project_id: id, batch }).first('revision'));
      if (made) return { revision: (made as { revision: number }).revision, document: undefined };
      const before = await this.current(transaction, row);
      if (row.revision !== revision) {
        throw new HttpProblem(409, 'The project was changed elsewhere.', {
          type: problemTypes.stale,
          detail: `The change is based on revision ${revision}; the project is at ${row.revision}.`,
          current: stored(row, before.document),
        });
      }
      const document = changed(before.document, patch);
      // Patches from here on are of the current version: the state they start from is kept in that version too.
      if (before.fromOlder) await keepSnapshot(transaction, id, revision, JSON.stringify(before.document));
      if (before.fromOlder || document.sources !== before.document.sources)
        await keepUses(transaction, id, revision + 1, digestsOf(document.sources));
      await transaction('revisions').insert({
        project_id: id,
        revision: revision + 1,
        patch: text,
        batch: batch ?? null,
      });
      const { name, sources, clips } = document;
      await transaction('projects')
        .where({ id })
        .update({
          ...{ name, sources: sources.length, clips: clips.length, revision: revision + 1 },
          updated_at: transaction.fn.now(),
        });
      return { revision: revision + 1, document };
    });
    const { document } = next;
    if (!document) return next.revision;
    // Only now, for what is held follows what was committed.
    this.hold(id, { ...next, document });
    if (next.revision % SNAPSHOT_EVERY === 0) this.keepLater(id, { ...next, document });
    return next.revision;
  }

  /** The states a project can be taken back to, the latest first. */
  async revisions(id: string): Promise<ProjectRevision[]> {
    await this.row(this.knex, id, false);
    const rows = (await this.knex
      .union(
        [
          this.knex('revisions').select('revision', 'created_at').where({ project_id: id }),
          this.knex('snapshots')
            .select('revision', 'created_at')
            .where({ project_id: id })
            .whereNotIn('revision', this.knex('revisions').select('revision').where({ project_id: id })),
        ],
        true,
      )
      .orderBy('revision', 'desc')
      .limit(MOST_LISTED)) as { revision: number; created_at: Date }[];
    const first = await snapshotBy(this.knex, id, 0, '>');
    const names = await versionNames(this.knex, id);
    return rows
      .filter(({ revision }) => first && revision >= first.revision)
      .map(({ revision, created_at }) => ({
        ...{ revision, at: created_at.toISOString() },
        ...(names.has(revision) && { name: names.get(revision)! }),
      }));
  }

  /** Gives a version a name, by which it is kept; '' takes the name away. Throws a problem where there is no such version. */
  async name(id: string, revision: number, name: string): Promise<void> {
    if (!uuid.test(id)) throw notFound('project');
    await nameVersion(this.knex, id, revision, name);
  }

  /** A project as it was at a revision. Throws a problem where that is not known (any more). */
  async at(id: string, revision: number): Promise<StoredProject> {
    const row = await this.row(this.knex, id, false);
    if (revision > row.revision) throw notFound('revision');
    const { raw, at } = await rawState(this.knex, id, revision);
    return stored({ id, revision, updated_at: at }, migrated(raw));
  }

  /** Takes a project out of the list. It can be brought back for some days. */
  async remove(id: string): Promise<void> {
    if (!uuid.test(id)) throw notFound('project');
    const removed = await this.knex('projects')
      .where({ id })
      .whereNull('removed_at')
      .update({ removed_at: this.knex.fn.now() });
    if (removed === 0) throw notFound('project');
    this.held.delete(id);
  }

  /** Brings a removed project back. Throws a problem where it is gone for good. */
  async restore(id: string): Promise<void> {
    if (!uuid.test(id)) throw notFound('project');
    const restored = await this.knex('projects').where({ id }).whereNotNull('removed_at').update({ removed_at: null });
    if (restored === 0) throw notFound('project');
  }

  /** Deletes for good what was removed so long ago that nobody brings it back; a project of an id at once. */
  async purge(now: number, id?: string): Promise<void> {
    const removed = this.knex('projects').whereNotNull('removed_at');
    if (id !== undefined && !uuid.test(id)) throw notFound('project');
    const deleted = await (
      id === undefined ? removed.where('removed_at', '<', new Date(now - KEPT_REMOVED)) : removed.where({ id })
    ).delete();
    if (id !== undefined && deleted === 0) throw notFound('project');
  }

  /** Waits until what is kept in the background is kept. */
  settled(): Promise<void> {
    return this.keeping;
  }

  private async row(knex: Knex, id: string, lock: boolean): Promise<ProjectRow> {
    if (!uuid.test(id)) throw notFound('project');
    const query = knex<ProjectRow>('projects').where({ id }).whereNull('removed_at');
    const row = await (lock ? query.forUpdate() : query).first();
    if (!row) throw notFound('project');
    return row as ProjectRow;
  }

  // Nothing is held or kept here: whoever asks may be in a transaction that comes to nothing.
  private async current(knex: Knex, { id, revision }: ProjectRow): Promise<Held & { fromOlder: boolean }> {
    const held = this.held.get(id);
    if (held?.revision === revision) return { ...held, fromOlder: false };
    const { raw } = await rawState(knex, id, revision);
    return { revision, document: migrated(raw), fromOlder: isOlder(raw) };
  }

  // Of two that come to an end at once the later revision stays.
  private hold(id: string, { revision, document }: Held): void {
    if ((this.held.get(id)?.revision ?? 0) <= revision) this.held.set(id, { revision, document });
  }

  /**
   * Thins out the states that all projects can be taken back to, and deletes those that were removed long ago.
   *
   * @param now milliseconds since 1970
   */
  async thin(now: number): Promise<void> {
    await this.purge(now);
    const ids = (await this.knex<ProjectRow>('projects').select('id')).map(({ id }) => id);
    for (const id of ids) {
      const keep = async (revision: number): Promise<void> => {
        const { raw, at, isWhole } = await rawState(this.knex, id, revision);
        if (!isWhole) await keepSnapshot(this.knex, id, revision, JSON.stringify(raw), at);
      };
      await thinProject(this.knex, id, keep, now);
    }
  }

  // A snapshot only shortens the way to a state; whoever made the change need not wait for it.
  private keepLater(id: string, { revision, document }: Held): void {
    this.keeping = this.keeping
      .then(() => keepSnapshot(this.knex, id, revision, JSON.stringify(document)))
      .catch((error: unknown) => console.error(`A snapshot of project ${id} could not be saved:`, error));
  }
}

async function keepSnapshot(knex: Knex, id: string, revision: number, document: string, at?: Date): Promise<void> {
  await knex('snapshots')
    .insert({ project_id: id, revision, document, ...(at && { created_at: at }) })
    .onConflict(['project_id', 'revision'])
    .merge(['document']);
}

// The last snapshot up to a revision, or the first one after it.
function snapshotBy(knex: Knex, id: string, revision: number, side: '<=' | '>'): Promise<SnapshotRow | undefined> {
  return knex<SnapshotRow>('snapshots')
    .where({ project_id: id })
    .andWhere('revision', side, revision)
    .orderBy('revision', side === '>' ? 'asc' : 'desc')
    .first() as Promise<SnapshotRow | undefined>;
}

/** Looks at a state's pieces before they are taken for lost: they may just have become others. */
const LOOKS = 5;

// As it was written, in the version of its snapshot, and when. What is thinned out meanwhile leaves a hole between the snapshot and the
// changes that were read; then there is a later snapshot.
async function rawState(
  knex: Knex,
  id: string,
  revision: number,
): Promise<{ raw: unknown; at: Date; isWhole: boolean }> {
  for (let look = 0; look < LOOKS; look++) {
    const base = await snapshotBy(knex, id, revision, '<=');
    if (!base) break;
    const later = (await knex('revisions')
      .where({ project_id: id })
      .andWhere('revision', '>', base.revision)
      .andWhere('revision', '<=', revision)
      .orderBy('revision')) as { patch: PatchOperation[]; created_at: Date }[];
    if (later.length !== revision - base.revision) continue;
    const raw = later.reduce<unknown>((state, { patch }) => patched(state, patch), base.document);
    return { raw, at: later.at(-1)?.created_at ?? base.created_at, isWhole: later.length === 0 };
  }
  throw notFound('revision');
}

const isOlder = (raw: unknown): boolean => (raw as { version?: unknown } | null)?.version !== PROJECT_VERSION;

const digestsOf = (named: readonly { sha256: string }[]): string[] => [...new Set(named.map(({ sha256 }) => sha256))];

// What was stored was valid when it was; only what another version stored is looked at again.
function migrated(raw: unknown): ProjectDocument {
  if (!isOlder(raw)) return raw as ProjectDocument;
  const checked = migrateProject(raw);
  if (!checked.ok) {
    throw new HttpProblem(500, 'This version of Hastig can’t read the stored project.', { errors: checked.errors });
  }
  return checked.value;
}

/** A valid document changed by a patch. Throws a problem where the patch does not apply, or what comes out is not valid. */
function changed(before: ProjectDocument, patch: readonly PatchOperation[]): ProjectDocument {
  const checked = checkChangedDocument(before, patched(before, patch));
  if (!checked.ok) throw invalid(checked.errors);
  const errors = integrityErrorsOfChange(before, checked.value);
  if (errors.length > 0) throw invalid(errors.slice(0, 20));
  return checked.value;
}

function stored(
  { id, revision, updated_at }: Pick<ProjectRow, 'id' | 'revision' | 'updated_at'>,
  document: ProjectDocument,
): StoredProject {
  return { id, revision, updatedAt: updated_at.toISOString(), document };
}
