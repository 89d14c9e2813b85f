import type { Container, ProjectDocument, Track, TrackItem } from '@hastig/contract';
import { normalizeItems } from '../timeline/edit/items';
import { containersOf, findClip, findGroup, findSource, placeOf, withContainer } from '../timeline/lookup';

/**
 * A project that two were put together to, made whole: every clip that is left has what it is made of, and one place; rows name only
 * clips that are left.
 *
 * @param conflicts gets what one had taken out and the other still needs
 */
export function madeWhole(
  merged: ProjectDocument,
  mine: ProjectDocument,
  theirs: ProjectDocument,
  conflicts: string[],
): ProjectDocument {
  const needed = withNeeded(merged, [mine, theirs], conflicts);
  return withPlaces(withoutLost(needed), [mine, theirs]);
}

// What clips are made of comes back where one took it out and the other made a clip of it; and what a group that comes back holds.
function withNeeded(merged: ProjectDocument, from: readonly ProjectDocument[], conflicts: string[]): ProjectDocument {
  let state = merged;
  for (;;) {
    const missing = state.clips.find(({ of }) =>
      of.kind === 'source' ? !findSource(state, of.id) : !findGroup(state, of.id),
    );
    if (!missing) return state;
    const { kind, id } = missing.of;
    const find = (project: ProjectDocument) => (kind === 'source' ? findSource(project, id) : findGroup(project, id));
    const owner = from.find((project) => find(project));
    if (!owner) return state;
    conflicts.push(`/${kind}s/${id}`);
    if (kind === 'source') state = { ...state, sources: [...state.sources, findSource(owner, id)!] };
    else {
      const group = findGroup(owner, id)!;
      const inside = group.tracks.flatMap(({ items }) => items.flatMap((item) => ('clip' in item ? [item.clip] : [])));
      const clips = inside.flatMap((clip) => (findClip(state, clip) ? [] : (findClip(owner, clip) ?? [])));
      state = { ...state, groups: [...state.groups, group], clips: [...state.clips, ...clips] };
    }
  }
}

// Rows without clips that are gone, and without a clip's second place.
function withoutLost(project: ProjectDocument): ProjectDocument {
  const seen = new Set<string>();
  const stays = (item: TrackItem): boolean => {
    if ('gap' in item) return true;
    if (seen.has(item.clip) || !findClip(project, item.clip)) return false;
    seen.add(item.clip);
    return true;
  };
  return containersOf(project).reduce(
    (state, [id]) =>
      withContainer(state, id, (container) => ({
        ...container,
        tracks: container.tracks.map((track): Track => {
          const items = track.items.filter(stays);
          return items.length === track.items.length ? track : { ...track, items: normalizeItems(items) };
        }),
      })),
    project,
  );
}

// Each clip without a place is laid behind the clip it lay behind, on the track it lay on, or one of its kind.
function withPlaces(project: ProjectDocument, from: readonly ProjectDocument[]): ProjectDocument {
  return project.clips.reduce((state, { id }) => {
    if (placeOf(state, id)) return state;
    const place = from.map((one) => placeOf(one, id)).find(Boolean);
    if (!place) return state;
    const { containerId, track: old, itemIndex } = place;
    const before = old.items.slice(0, itemIndex).reverse();
    return withContainer(
      state,
      containersOf(state).some(([name]) => name === containerId) ? containerId : containersOf(state)[0]![0],
      (container: Container) => {
        const target =
          container.tracks.find((track) => track.id === old.id) ??
          container.tracks.find(({ kind }) => kind === old.kind) ??
          container.tracks[0]!;
        const after = before
          .flatMap((item) =>
            'clip' in item ? [target.items.findIndex((one) => 'clip' in one && one.clip === item.clip)] : [],
          )
          .find((index) => index >= 0);
        const at = after === undefined ? (itemIndex === 0 ? 0 : target.items.length) : after + 1;
        return {
          ...container,
          tracks: container.tracks.map((track) =>
            track === target ? { ...track, items: target.items.toSpliced(at, 0, { clip: id }) } : track,
          ),
        };
      },
    );
  }, project);
}
