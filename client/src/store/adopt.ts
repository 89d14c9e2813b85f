import { isDraft, original, type Draft } from 'immer';

type Tree = Record<string | number, unknown>;

const isTree = (value: unknown): value is Tree => typeof value === 'object' && value !== null;

/**
 * Makes a draft the same as a later state of it, touching only what differs, so that its patches say what was changed
 * and not the whole. What the two states share, they share as the same objects.
 *
 * @param draft of immer
 * @param next the state it shall have
 */
export function adopt<T extends object>(draft: Draft<T>, next: T): void {
  adoptTree(draft as Tree, next as Tree);
}

function adoptTree(draft: Tree, next: Tree): void {
  const before = (isDraft(draft) ? original(draft) : draft) as Tree;
  if (Array.isArray(next) && Array.isArray(before)) return adoptList(draft as unknown as unknown[], before, next);
  for (const key of Object.keys(before)) if (!(key in next)) delete draft[key];
  for (const key of Object.keys(next)) adoptField(draft, before, next, key);
}

function adoptField(draft: Tree, before: Tree, next: Tree, key: string | number): void {
  const [old, now] = [before[key], next[key]];
  if (old === now) return;
  if (isTree(old) && isTree(now) && Array.isArray(old) === Array.isArray(now)) adoptTree(draft[key] as Tree, now);
  else draft[key] = now;
}

// Lists are compared from both ends: between them lies what was put in, taken out or changed.
function adoptList(draft: unknown[], before: readonly unknown[], next: readonly unknown[]): void {
  if (before.length === next.length) {
    next.forEach((_, index) => adoptField(draft as unknown as Tree, before as never, next as never, index));
    return;
  }
  const shorter = Math.min(before.length, next.length);
  let head = 0;
  while (head < shorter && before[head] === next[head]) head++;
  let tail = 0;
  while (tail < shorter - head && before[before.length - 1 - tail] === next[next.length - 1 - tail]) tail++;
  draft.splice(head, before.length - head - tail, ...next.slice(head, next.length - tail));
}
