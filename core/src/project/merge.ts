import type { Clip, ProjectDocument, Source, TrackItem } from '@hastig/contract';
import equal from 'fast-deep-equal';
import { integrityErrors } from './integrity';
import { mergeRows } from './merge-rows';
import { madeWhole } from './merge-whole';

/** Two states of a project put together. */
interface MergedProject {
  document: ProjectDocument;
  /** Where both had changed the same thing, as JSON Pointers in order; there the first one's was taken. */
  conflicts: string[];
}

type Tree = Record<string, unknown>;
type Thing = Tree & { id: string };

const isTree = (value: unknown): value is Tree => typeof value === 'object' && value !== null && !Array.isArray(value);
const isRow = (list: readonly unknown[]): list is TrackItem[] =>
  list.every((one) => isTree(one) && ('clip' in one || 'gap' in one) && !('id' in one));
const hasIds = (list: readonly unknown[]): list is Thing[] =>
  list.every((one) => isTree(one) && typeof one.id === 'string');

/**
 * Objects whose fields are decisions of their own, by the last piece of their pointer; a thing in a list by its id is one too. All
 * others mean something together and are one value: a rate, a range, keys, a fade.
 */
const apart = new Set(['', 'sequence', 'defaults', 'picture', 'sound', 'master']);

/** Fields of a thing that mean something together: one who changes any of them has changed all. */
const together: readonly (readonly string[])[] = [
  ['timing', 'shown', 'length', 'of'],
  ['width', 'height'],
  ['sha256', 'facts', 'readAs', 'fields', 'counting', 'soundTrack', 'part'],
];

/** What another version of a thing replaces: of a clip, a group, or the film. */
const replaced = [
  ...['liveVersion', 'timing', 'shown', 'length', 'of', 'muted', 'picture', 'sound', 'exposures', 'effects'],
  ...['rate', 'tracks', 'markers', 'sequence', 'clips', 'groups'],
];

/** Whether one went over to another version that both knew. One that was made meanwhile goes on from what was there. */
const wentOver = (base: Tree, now: Tree): boolean =>
  now.liveVersion !== base.liveVersion &&
  Array.isArray(base.versions) &&
  hasIds(base.versions) &&
  base.versions.some(({ id }) => id === now.liveVersion);

/**
 * Puts two states together that began as the same: what only one changed is taken from it; lists of things with ids are put
 * together thing by thing, rows stretch by stretch. The rules for pairs of edits are in `docs/saving.md`.
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
  const other = withMyCounts(base, mine, theirs, conflicts);
  const document = merge(base, mine, other, '', conflicts) as ProjectDocument;
  const whole = madeWhole(document, mine, other, conflicts);
  return integrityErrors(whole).length === 0
    ? { document: whole, conflicts: [...new Set(conflicts)].sort() }
    : undefined;
}

/** What decides how a source's positions count: whoever changes it changes the timing of its clips. */
const countOf = ({ readAs, fields, counting, facts }: Source): unknown => [
  readAs,
  fields,
  counting,
  facts.video?.frames,
];
const timingOf = ({ timing, shown }: Clip): unknown => [timing, shown];

// Frames mean something by their rate only. Where one changed how frames are counted, of the sequence or of a source, and the other
// laid or timed what is counted so, the two don't go together: then it is mine as a whole.
function withMyCounts(
  base: ProjectDocument,
  mine: ProjectDocument,
  theirs: ProjectDocument,
  conflicts: string[],
): ProjectDocument {
  const rateOf = ({ sequence }: ProjectDocument): unknown => sequence.rate;
  const laid = ({ sequence, clips, groups }: ProjectDocument): unknown => [
    sequence.tracks,
    sequence.markers,
    clips,
    groups,
  ];
  const crosses = (a: ProjectDocument, b: ProjectDocument): boolean =>
    !equal(rateOf(base), rateOf(a)) && (!equal(laid(base), laid(b)) || !equal(rateOf(base), rateOf(b)));
  let other = theirs;
  if (!equal(mine, theirs) && (crosses(mine, theirs) || crosses(theirs, mine))) {
    conflicts.push('/sequence/rate');
    const { rate, tracks, markers, startFrame } = mine.sequence;
    other = {
      ...theirs,
      sequence: { ...theirs.sequence, rate, tracks, markers, startFrame },
      clips: mine.clips,
      groups: mine.groups,
    };
  }
  const [was, my] = [base, mine].map(({ sources }) => new Map(sources.map((one) => [one.id, one])));
  for (const source of other.sources) {
    const [old, own] = [was!.get(source.id), my!.get(source.id)];
    if (!old || !own) continue;
    const [i, they] = [!equal(countOf(old), countOf(own)), !equal(countOf(old), countOf(source))];
    const timed = (project: ProjectDocument): boolean =>
      project.clips.some((clip) => {
        if (clip.of.kind !== 'source' || clip.of.id !== source.id) return false;
        const before = base.clips.find(({ id }) => id === clip.id);
        return !before || !equal(timingOf(before), timingOf(clip));
      });
    if (!(i && timed(other)) && !(they && timed(mine))) continue;
    if (equal(own, source) && i && they) continue;
    conflicts.push(`/sources/${source.id}`);
    other = {
      ...other,
      sources: other.sources.map((one) => (one.id === source.id ? own : one)),
      clips: other.clips.flatMap((clip) => {
        if (clip.of.kind !== 'source' || clip.of.id !== source.id) return [clip];
        return mine.clips.filter(({ id }) => id === clip.id);
      }),
    };
  }
  return other;
}

function merge(base: unknown, mine: unknown, theirs: unknown, at: string, conflicts: string[]): unknown {
  if (mine === theirs || equal(mine, theirs) || equal(base, theirs)) return mine;
  if (equal(base, mine)) return theirs;
  const name = at.slice(at.lastIndexOf('/') + 1);
  if (isTree(mine) && isTree(theirs) && (apart.has(name) || typeof mine.id === 'string'))
    return mergeFields(isTree(base) ? base : {}, mine, theirs, at, conflicts);
  if (Array.isArray(mine) && Array.isArray(theirs)) {
    const old: unknown[] = Array.isArray(base) ? base : [];
    if (name === 'items' && isRow(mine) && isRow(theirs) && isRow(old)) {
      const { items, conflict } = mergeRows(old, mine, theirs);
      if (conflict) conflicts.push(at);
      return items;
    }
    if (hasIds(mine) && hasIds(theirs) && hasIds(old)) return mergeThings(old, mine, theirs, at, conflicts);
  }
  conflicts.push(at);
  return mine;
}

function mergeFields(base: Tree, mine: Tree, theirs: Tree, at: string, conflicts: string[]): Tree {
  const merged: Tree = {};
  const keys = new Set([...Object.keys(theirs), ...Object.keys(mine)]);
  const switched = wentOver(base, mine) || wentOver(base, theirs);
  for (const group of switched ? [replaced, ...together] : together) {
    const all = group.filter((key) => keys.has(key));
    if (all.length < 2) continue;
    const pick = (of: Tree): unknown[] => all.map((key) => of[key]);
    const [was, my, their] = [pick(base), pick(mine), pick(theirs)];
    if (equal(my, their) || equal(was, their) || !equal(was, my)) {
      if (!equal(my, their) && !equal(was, their)) conflicts.push(`${at}/${group[0]}`);
      all.forEach((key) => mine[key] !== undefined && (merged[key] = mine[key]));
    } else all.forEach((key) => theirs[key] !== undefined && (merged[key] = theirs[key]));
    all.forEach((key) => keys.delete(key));
  }
  for (const key of keys) {
    const value = merge(base[key], mine[key], theirs[key], `${at}/${key}`, conflicts);
    if (value !== undefined) merged[key] = value;
  }
  return merged;
}

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
    if (!old) return [left];
    if (equal(old, left)) return [];
    // Taken out on one side and changed on the other: as I have it.
    conflicts.push(`${at}/${id}`);
    return a ? [a] : [];
  });
}
