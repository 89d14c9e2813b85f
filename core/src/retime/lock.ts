import type { RetimeMap, Span } from '@hastig/contract';
import { EditRefused } from './edit/refused';

/** Throws where one of the spans that an edit would change is locked. */
export function refuseLocked(spans: readonly (Span | undefined)[]): void {
  if (spans.some((span) => span?.locked)) {
    throw new EditRefused('span', 'This part is locked. Unlock it to change its timing.');
  }
}

/** The span with its lock set or taken off. */
export function withLock(span: Span, locked: boolean): Span {
  const { locked: _old, ...rest } = span;
  return locked ? { ...rest, locked } : rest;
}

/** The map with the part at `index` locked or unlocked; nothing else changes. */
export function lockPart(map: RetimeMap, index: number, locked: boolean): RetimeMap {
  const span = map.spans[index];
  if (!span) throw new EditRefused('span', 'This part doesn’t exist.');
  return { ...map, spans: map.spans.with(index, withLock(span, locked)) };
}
