import type { ProjectDocument, TrackItem } from '@hastig/contract';
import { normalizeItems } from '../timeline/edit/items';
import { integrityErrors } from './integrity';

/** Two states of a project put together. */
interface MergedProject {
  document: ProjectDocument;
  /** Where both had changed the same thing, as JSON Pointers; there the first one's was taken. */
  conflicts: string[];
}

type Tree = Record<string, unknown>;

const isTree = (value: unknown): value is Tree => typeof value === 'object' && value !== null && !Array.isArray(value);
const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);
const isRow = (list: readonly unknown[]): list is TrackItem[] =>
  list.every((one) => isTree(one) && ('clip' in one || 'gap' in one) && !('id' in one));
const hasIds = (list: readonly unknown[]): list is (Tree & { id: string })[] =>
  list.every((one) => isTree(one) && typeof one.id === 'string');

/**
 * Puts two states together that began as the same: what only one changed is taken from it; lists of things with ids are put
 * together thing by thing; what is added on either side stays, what one removes and the other leaves alone goes.
 *
 * @param base what both began as
 * @param mine taken where both changed the same
 * @returns undefined where the result would not be whole
 */
export function mergeProjects(
  base: ProjectDocument,
  mine: ProjectDocument,
  theirs: ProjectDocument,
): MergedProject | undefined {
  const conflicts: string[] = [];
  const document = merge(base, mine, theirs, '', conflicts) as ProjectDocument;
  return integrityErrors(document).length === 0 ? { document, conflicts } : undefined;
}

function merge(base: unknown, mine: unknown, theirs: unknown, at: string, conflicts: string[]): unknown {
  if (same(mine, theirs) || same(base, theirs)) return mine;
  if (same(base, mine)) return theirs;
  if (isTree(mine) && isTree(theirs)) {
    const old = isTree(base) ? base : {};
    const merged: Tree = {};
    for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine)])) {
      const value = merge(old[key], mine[key], theirs[key], `${at}/${key}`, conflicts);
      if (value !== undefined) merged[key] = value;
    }
    return merged;
  }
  if (Array.isArray(mine) && Array.isArray(theirs)) {
    const old: unknown[] = Array.isArray(base) ? base : [];
    if (hasIds(mine) && hasIds(theirs) && hasIds(old)) return mergeThings(old, mine, theirs, at, conflicts);
    if (at.endsWith('/items') && isRow(mine) && isRow(theirs) && isRow(old))
      return mergeRows(old, mine, theirs, at, conflicts);
  }
  conflicts.push(at);
  return mine;
}

type Thing = Tree & { id: string };

function mergeThings(
  base: readonly Thing[],
  mine: readonly Thing[],
  theirs: readonly Thing[],
  at: string,
  conflicts: string[],
): Thing[] {
  const [was, my, their] = [base, mine, theirs].map((list) => new Map(list.map((one) => [one.id, one])));
  const ids = new Set([...their!.keys(), ...my!.keys()]);
  return [...ids].flatMap((id) => {
    const [old, a, b] = [was!.get(id), my!.get(id), their!.get(id)];
    if (a && b) return [merge(old, a, b, `${at}/${id}`, conflicts) as Thing];
    const left = (a ?? b)!;
    // Taken out on one side: it stays only if the other has changed it since.
    return old && same(old, left) ? [] : [left];
  });
}

// Theirs as it lies, without what I took out, and behind it what I laid.
function mergeRows(
  base: readonly TrackItem[],
  mine: readonly TrackItem[],
  theirs: readonly TrackItem[],
  at: string,
  conflicts: string[],
): TrackItem[] {
  conflicts.push(at);
  const clipsOf = (row: readonly TrackItem[]): Set<string> =>
    new Set(row.flatMap((item) => ('clip' in item ? [item.clip] : [])));
  const [was, my, their] = [clipsOf(base), clipsOf(mine), clipsOf(theirs)];
  const kept = theirs.filter((item) => !('clip' in item) || my.has(item.clip) || !was.has(item.clip));
  const laid = mine.filter((item) => 'clip' in item && !their.has(item.clip) && !was.has(item.clip));
  return normalizeItems([...kept, ...laid]);
}
