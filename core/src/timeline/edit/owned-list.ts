import type { Effect, ExposureStep, ProjectDocument } from '@hastig/contract';
import { findClip } from '../lookup';
import { needClip, withClip } from './items';

/** Whose pictures: some clips', by their ids, or those of the whole film. */
export type PictureOwner = { clips: readonly string[] } | 'film';

const FILM = 'film';

/** What a clip or the film has of each kind, in order. */
interface Lists {
  exposures: ExposureStep;
  effects: Effect;
}

/** What is done with one kind of list. */
export interface OwnedList<T> {
  /** A clip's, by its id, or the film's; nothing where nothing is said. */
  of(project: ProjectDocument, owner: string | 'film'): readonly T[];
  /** Gives clips or the film another list; an empty one leaves nothing behind. */
  set(project: ProjectDocument, owner: PictureOwner, change: (list: readonly T[]) => readonly T[]): ProjectDocument;
  /** Puts one in the place of the one with its id, or after all others. */
  put(project: ProjectDocument, owner: PictureOwner, one: T): ProjectDocument;
  remove(project: ProjectDocument, owner: PictureOwner, id: string): ProjectDocument;
  /** Moves one among the others, so many places later. */
  move(project: ProjectDocument, owner: PictureOwner, id: string, by: number): ProjectDocument;
}

/**
 * The list of one kind that clips and the film may have.
 *
 * @param check throws EditRefused for one that makes no sense
 */
export function ownedList<Name extends keyof Lists>(
  name: Name,
  check: (one: Lists[Name]) => void,
): OwnedList<Lists[Name]> {
  type T = Lists[Name];
  type Has = { [name in Name]?: T[] };
  const changed = <Owner>(owner: Owner, change: (list: readonly T[]) => readonly T[]): Owner => {
    const { [name]: before, ...rest } = owner as Owner & Has;
    const list = change((before as T[] | undefined) ?? []);
    for (const one of list) check(one);
    return (list.length === 0 ? rest : { ...rest, [name]: [...list] }) as unknown as Owner;
  };
  const set: OwnedList<T>['set'] = (project, owner, change) => {
    if (owner === FILM) return { ...project, sequence: changed(project.sequence, change) };
    return owner.clips.reduce((state, id) => {
      needClip(state, id);
      return withClip(state, id, (clip) => changed(clip, change));
    }, project);
  };
  return {
    of: (project, owner) => {
      const its: Has | undefined = (owner === FILM ? project.sequence : findClip(project, owner)) as Has | undefined;
      return its?.[name] ?? [];
    },
    set,
    put: (project, owner, one) =>
      set(project, owner, (list) =>
        list.some(({ id }) => id === one.id) ? list.map((old) => (old.id === one.id ? one : old)) : [...list, one],
      ),
    remove: (project, owner, id) => set(project, owner, (list) => list.filter((one) => one.id !== id)),
    move: (project, owner, id, by) =>
      set(project, owner, (list) => {
        const index = list.findIndex((one) => one.id === id);
        if (index < 0) return list;
        const to = Math.min(list.length - 1, Math.max(0, index + by));
        return list.toSpliced(index, 1).toSpliced(to, 0, list[index]!);
      }),
  };
}
