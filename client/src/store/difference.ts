import type { PatchOperation } from '@hastig/contract';

type Tree = Record<string | number, unknown>;
type Path = readonly (string | number)[];

/** Operations beyond which the parts that differ are told as wholes. */
const MOST_OPERATIONS = 2000;

const isTree = (value: unknown): value is Tree => typeof value === 'object' && value !== null;
const pointer = (path: Path): string =>
  path.map((piece) => `/${String(piece).replace(/~/g, '~0').replace(/\//g, '~1')}`).join('');

/**
 * What leads from one state to a later one, as a JSON Patch (RFC 6902) that tells only what differs. Neither is ever changed
 * in place: what both share is the same object, and is not looked into.
 *
 * Things in lists are known by their ids, clips and gaps on a track by what they are, so that one put in or taken out is one
 * operation however many follow it.
 */
export function difference(before: object, after: object): PatchOperation[] {
  const fine: PatchOperation[] = [];
  compare(before, after, [], fine);
  if (fine.length <= MOST_OPERATIONS) return fine;
  const coarse: PatchOperation[] = [];
  compare(before, after, [], coarse, 1);
  return coarse;
}

function compare(before: unknown, after: unknown, path: Path, out: PatchOperation[], depth = Infinity): void {
  if (before === after) return;
  const alike = isTree(before) && isTree(after) && Array.isArray(before) === Array.isArray(after);
  if (!alike || path.length >= depth) {
    out.push({ op: 'replace', path: pointer(path), value: after });
  } else if (Array.isArray(before) && Array.isArray(after)) {
    compareLists(before, after, path, out, depth);
  } else {
    for (const key of Object.keys(before)) {
      if (!(key in after)) out.push({ op: 'remove', path: pointer([...path, key]) });
    }
    for (const key of Object.keys(after)) {
      if (key in before) compare(before[key], after[key], [...path, key], out, depth);
      else out.push({ op: 'add', path: pointer([...path, key]), value: after[key] });
    }
  }
}

function compareLists(
  before: readonly unknown[],
  after: readonly unknown[],
  path: Path,
  out: PatchOperation[],
  depth: number,
): void {
  const shorter = Math.min(before.length, after.length);
  let head = 0;
  // What is named alike in the same place is the same thing, however much of it changed; most lists are walked through so.
  while (head < shorter && (before[head] === after[head] || sameNamed(before[head], after[head]))) {
    if (before[head] !== after[head]) compare(before[head], after[head], [...path, head], out, depth);
    head++;
  }
  let tail = 0;
  while (tail < shorter - head && before[before.length - 1 - tail] === after[after.length - 1 - tail]) tail++;
  const was = before.slice(head, before.length - tail);
  const is = after.slice(head, after.length - tail);
  const keys = [keysOf(was), keysOf(is)];
  const at = (index: number): Path => [...path, head + index];
  if (!keys[0] || !keys[1]) {
    // Numbers, spans and the like have no name: by their places.
    const common = Math.min(was.length, is.length);
    for (let index = 0; index < common; index++) compare(was[index], is[index], at(index), out, depth);
    for (let index = was.length - 1; index >= common; index--) out.push({ op: 'remove', path: pointer(at(index)) });
    for (let index = common; index < is.length; index++)
      out.push({ op: 'add', path: pointer(at(index)), value: is[index] });
    return;
  }
  const places = new Map(keys[0].map((key, index) => [key, index]));
  const stays = longestRising(keys[1].map((key) => places.get(key) ?? -1));
  const kept = new Set(stays.map((index) => places.get(keys[1]![index]!)));
  for (let index = was.length - 1; index >= 0; index--) {
    if (!kept.has(index)) out.push({ op: 'remove', path: pointer(at(index)) });
  }
  const staying = new Set(stays);
  is.forEach((one, index) => {
    if (staying.has(index)) compare(was[places.get(keys[1]![index]!)!], one, at(index), out, depth);
    else out.push({ op: 'add', path: pointer(at(index)), value: one });
  });
}

const sameNamed = (a: unknown, b: unknown): boolean =>
  isTree(a) && isTree(b) && ('id' in a ? a.id === b.id : 'clip' in a && a.clip === b.clip);

/** Names by which things in a list are told apart; undefined where they have none. */
function keysOf(list: readonly unknown[]): string[] | undefined {
  const times = new Map<string, number>();
  const keys: string[] = [];
  for (const one of list) {
    if (!isTree(one)) return undefined;
    const name = 'id' in one ? `id ${String(one.id)}` : 'clip' in one ? `clip ${String(one.clip)}` : gapName(one);
    if (name === undefined) return undefined;
    const time = times.get(name) ?? 0;
    times.set(name, time + 1);
    keys.push(`${name} ${time}`);
  }
  return keys;
}

const gapName = (one: Tree): string | undefined => ('gap' in one ? `gap ${String(one.gap)}` : undefined);

/**
 * Indices of the longest part of a list whose values rise, negative values left out (patience sorting; Fredman 1975, “On
 * computing the length of longest increasing subsequences”).
 */
function longestRising(values: readonly number[]): number[] {
  const before = new Int32Array(values.length);
  // Where the best part of each length ends, and so its value is least.
  const ends: number[] = [];
  values.forEach((value, index) => {
    if (value < 0) return;
    let [low, high] = [0, ends.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (values[ends[middle]!]! < value) low = middle + 1;
      else high = middle;
    }
    before[index] = low > 0 ? ends[low - 1]! : -1;
    ends[low] = index;
  });
  const part: number[] = [];
  for (let index = ends.at(-1) ?? -1; index >= 0; index = before[index]!) part.push(index);
  return part.reverse();
}

/**
 * A state after a JSON Patch that `difference` made. The state itself stays as it is, and what is not touched is shared with
 * it.
 *
 * @throws RangeError where the patch does not fit the state
 */
export function applied<T extends object>(state: T, patch: readonly PatchOperation[]): T {
  const own = new Set<unknown>();
  const owned = (tree: Tree): Tree => {
    if (own.has(tree)) return tree;
    const copy = (Array.isArray(tree) ? tree.slice() : { ...tree }) as Tree;
    own.add(copy);
    return copy;
  };
  const root = owned(state as Tree);
  for (const { op, path, value } of patch) {
    const pieces = path
      .split('/')
      .slice(1)
      .map((piece) => piece.replace(/~1/g, '/').replace(/~0/g, '~'));
    const last = pieces.pop();
    let at = root;
    for (const piece of pieces) {
      const inner = at[piece];
      if (!isTree(inner)) throw new RangeError(`there is nothing at ${path}`);
      at = at[piece] = owned(inner);
    }
    if (last === undefined) throw new RangeError('a whole state is not replaced');
    if (Array.isArray(at) && op !== 'replace') {
      if (op === 'add') at.splice(Number(last), 0, value);
      else at.splice(Number(last), 1);
    } else if (op === 'remove') delete at[last];
    else at[last] = value;
  }
  return root as T;
}
