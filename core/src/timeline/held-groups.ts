import type { ProjectDocument } from '@hastig/contract';

/** The groups that each group holds clips of, by their ids, once each. */
function heldGroups({ groups, clips }: ProjectDocument): ReadonlyMap<string, readonly string[]> {
  const shownBy = new Map(clips.flatMap(({ id, of }) => (of.kind === 'group' ? [[id, of.id] as const] : [])));
  return new Map(
    groups.map(({ id, tracks }) => {
      const held = tracks.flatMap(({ items }) =>
        items.flatMap((item) => ('clip' in item ? (shownBy.get(item.clip) ?? []) : [])),
      );
      return [id, [...new Set(held)]];
    }),
  );
}

/** Whether a group is another one, or holds it at any depth. Each group is looked at once, however often it is held. */
export function holdsGroup(project: ProjectDocument, groupId: string, sought: string): boolean {
  const held = heldGroups(project);
  const seen = new Set([groupId]);
  // A set is walked through with what is added to it meanwhile.
  for (const id of seen) for (const inner of held.get(id) ?? []) seen.add(inner);
  return seen.has(sought);
}

/**
 * Groups through which one comes back to where one began, at least one for each circle there is. Depth first with each
 * group entered once (Cormen et al., Introduction to Algorithms, 22.3: a circle is an edge back to what is still open),
 * without recursion: a chain of groups may be longer than the stack is deep.
 */
export function groupsInCircles(project: ProjectDocument): ReadonlySet<string> {
  const held = heldGroups(project);
  const state = new Map<string, 'open' | 'done'>();
  const circles = new Set<string>();
  for (const root of held.keys()) {
    const path: { id: string; left: string[] }[] = [];
    const enter = (id: string): void => {
      if (state.get(id) === 'open') circles.add(id);
      if (state.has(id)) return;
      state.set(id, 'open');
      path.push({ id, left: [...(held.get(id) ?? [])] });
    };
    enter(root);
    while (path.length > 0) {
      const { id, left } = path.at(-1)!;
      const next = left.pop();
      if (next !== undefined) {
        enter(next);
      } else {
        state.set(id, 'done');
        path.pop();
      }
    }
  }
  return circles;
}

/** Clips that are played at the most, those in groups counted as often as the groups are shown. */
const MOST_PLAYED = 10_000;

/** Clips that a project may play: so many, and twice as many as it has. */
export const mostPlayed = ({ clips }: ProjectDocument): number => Math.max(MOST_PLAYED, 2 * clips.length);

/**
 * Clips of sources that are played from a project's beginning to its end, those in groups counted as often as the groups are shown:
 * what seeing and hearing it costs. Groups in groups double it with every level, so a few clips can come to millions.
 *
 * @param project in which no group holds itself
 */
export function playedClips(project: ProjectDocument): number {
  const byId = new Map(project.clips.map((clip) => [clip.id, clip]));
  const tracksOf = new Map(project.groups.map(({ id, tracks }) => [id, tracks]));
  const known = new Map<string, number>();
  const countOf = (tracks: ProjectDocument['sequence']['tracks'], groupCount: (id: string) => number): number => {
    let count = 0;
    for (const { items } of tracks)
      for (const item of items) {
        const of = 'clip' in item ? byId.get(item.clip)?.of : undefined;
        if (of) count += of.kind === 'source' ? 1 : groupCount(of.id);
      }
    return count;
  };
  // From the inside out, without calling itself: a chain of groups may be longer than the stack is deep.
  const held = heldGroups(project);
  for (const root of tracksOf.keys()) {
    const open = [root];
    while (open.length > 0) {
      const id = open.at(-1)!;
      const inner = (held.get(id) ?? []).filter((one) => !known.has(one));
      if (known.has(id) || inner.length === 0) {
        if (!known.has(id))
          known.set(
            id,
            countOf(tracksOf.get(id) ?? [], (one) => known.get(one) ?? 0),
          );
        open.pop();
      } else open.push(...inner);
    }
  }
  return countOf(project.sequence.tracks, (id) => known.get(id) ?? 0);
}
