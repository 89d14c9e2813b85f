import type { TrackItem } from '@hastig/contract';
import { diff3Merge } from 'node-diff3';
import { normalizeItems } from '../timeline/edit/items';

const nameOf = (item: TrackItem): string => ('clip' in item ? `clip ${item.clip}` : `gap ${item.gap}`);

const itemOf = (name: string): TrackItem =>
  name.startsWith('clip ') ? { clip: name.slice(5) } : { gap: Number(name.slice(4)) };

/**
 * Puts two states of a row together that began as the same, stretch by stretch (three-way merge: S. Khanna, K. Kunal and B. Pierce, A
 * Formal Investigation of Diff3, 2007). Where both changed the same stretch, it is mine, and what they laid there follows it.
 *
 * @returns the row, and whether a stretch was changed by both
 */
export function mergeRows(
  base: readonly TrackItem[],
  mine: readonly TrackItem[],
  theirs: readonly TrackItem[],
): { items: TrackItem[]; conflict: boolean } {
  const [was, my, their] = [base, mine, theirs].map((row) => row.map(nameOf));
  const known = new Set([...was!, ...my!]);
  let conflict = false;
  const names = diff3Merge(my!, was!, their!, { excludeFalseConflicts: true }).flatMap((region) => {
    if (region.ok) return region.ok;
    const { a = [], o = [], b = [] } = region.conflict ?? {};
    // Both laid something in the same place: mine first, and nothing is lost.
    if (o.length === 0) return [...a, ...b];
    conflict = true;
    const laid = b.filter((name) => name.startsWith('clip ') && !known.has(name));
    return [...a, ...laid];
  });
  // A clip that was moved within the row by both may come twice: the first place stays.
  const seen = new Set<string>();
  const once = names.filter((name) => !name.startsWith('clip ') || (!seen.has(name) && seen.add(name)));
  return { items: normalizeItems(once.map(itemOf)), conflict };
}
