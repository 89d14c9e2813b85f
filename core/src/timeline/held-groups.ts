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
