import type { RetimeMap, Stretch } from '@hastig/contract';
import {
  compile,
  containerFrames,
  EditRefused,
  findClip,
  momentAt,
  placeOf,
  SEQUENCE,
  type PictureOwner,
} from '@hastig/core';
import { choiceField, type ChoiceSpec } from '../form/specs';
import { useAppSelector, useSession } from '../store/hooks';

type Owner = 'clip' | 'clips' | 'film';
type Extent = 'whole' | 'marked' | 'stays';

// A type of its own, as forms take it.
type ExtentFields = {
  owner: ChoiceSpec<Owner>;
  extent: ChoiceSpec<Extent>;
  by: ChoiceSpec<'source' | 'output'>;
};

/** What is chosen in these fields. */
export interface ExtentValues {
  owner: Owner;
  extent: Extent;
  by: 'source' | 'output';
}

interface ExtentOf {
  clipId: string;
  map: RetimeMap;
  /** Whether it is the film's. */
  film?: boolean;
  /** What is there already; nothing where something new is made. */
  before: { over?: Stretch } | undefined;
}

/** Whose pictures something is for, and for which stretch: the fields, and what is chosen in them. */
export interface ExtentChoice {
  fields: ExtentFields;
  /** Whether in and out must be marked before it can be for a part only. */
  needsMarks: boolean;
  /** @throws EditRefused where nothing of the source passes between in and out */
  chosen(values: ExtentValues): { owner: PictureOwner; over?: Stretch };
}

/** What may be chosen of it: the clip, those that are selected with it, or the film; all of it, or between in and out. */
export function useExtent({ clipId, map, film = false, before }: ExtentOf): ExtentChoice {
  const project = useAppSelector((state) => state.project.document)!;
  const { marks, selectedClips } = useSession('marks', 'selectedClips');
  const clip = findClip(project, clipId)!;
  const place = placeOf(project, clipId);
  const marked = marks.from !== null || marks.to !== null;
  const range = { from: marks.from ?? 0, to: Math.min(compile(map).length, marks.to ?? Infinity) };
  const several = before === undefined && selectedClips.length > 1 && selectedClips.includes(clipId);
  const owners = [
    { value: 'clip' as const, label: 'Clip' },
    ...(several ? [{ value: 'clips' as const, label: `${selectedClips.length} clips` }] : []),
    ...(place?.containerId === SEQUENCE ? [{ value: 'film' as const, label: 'Film' }] : []),
  ];
  const shift = place ? place.from - clip.shown.from : 0;
  // Positions of the clip's content, its output, or frames of the film.
  const stretch = (by: 'source' | 'output', ofFilm: boolean): Stretch => {
    if (ofFilm) return { by: 'output', from: Math.max(0, range.from + shift), to: Math.max(0, range.to + shift) };
    if (by === 'output') return { by, ...range };
    const [a, b] = [momentAt(map, range.from).source, momentAt(map, range.to).source];
    if (Math.abs(a - b) < 1e-6) throw new EditRefused('over', 'Nothing of the source passes between in and out.');
    return { by, from: Math.max(0, Math.min(a, b)), to: Math.max(0, a, b) };
  };
  return {
    needsMarks: !marked && !before?.over,
    fields: {
      owner: {
        ...choiceField<Owner>('For', film ? 'film' : several ? 'clips' : 'clip', owners),
        when: () => before === undefined && owners.length > 1,
      },
      extent: extentField(before?.over, !before, marked),
      by: {
        ...choiceField<'source' | 'output'>('Stays with', 'source', [
          { value: 'source', label: 'Content' },
          { value: 'output', label: 'Output time' },
        ]),
        when: ({ extent, owner }) => marked && extent === 'marked' && owner !== 'film',
      },
    },
    chosen: ({ owner, extent, by }) => {
      const ofFilm = film || owner === 'film';
      const over = extent === 'marked' ? stretch(by, ofFilm) : extent === 'stays' ? before?.over : undefined;
      return {
        owner: ofFilm ? 'film' : { clips: owner === 'clips' && several ? selectedClips : [clipId] },
        ...(over && { over }),
      };
    },
  };
}

/** All of it, the stretch that it has, or from in to out. */
const extentField = (over: Stretch | undefined, isNew: boolean, marked: boolean): ChoiceSpec<Extent> => ({
  ...choiceField<Extent>('Apply to', over ? 'stays' : marked && isNew ? 'marked' : 'whole', [
    { value: 'whole', label: 'All of it' },
    ...(over ? [{ value: 'stays' as const, label: 'Its stretch' }] : []),
    ...(marked ? [{ value: 'marked' as const, label: 'In to out' }] : []),
  ]),
  when: () => marked || over !== undefined,
});

/** The same for the film, while it is on the stage. */
export function useFilmExtent(before: { over?: Stretch } | undefined): ExtentChoice {
  const project = useAppSelector((state) => state.project.document)!;
  const { marks } = useSession('marks');
  const marked = marks.from !== null || marks.to !== null;
  const never = (): boolean => false;
  const range = { from: marks.from ?? 0, to: marks.to ?? containerFrames(project, project.sequence) };
  return {
    needsMarks: !marked && !before?.over,
    fields: {
      owner: { ...choiceField<Owner>('For', 'film', [{ value: 'film', label: 'Film' }]), when: never },
      extent: extentField(before?.over, !before, marked),
      by: {
        ...choiceField<'source' | 'output'>('Stays with', 'output', [{ value: 'output', label: 'Output time' }]),
        when: never,
      },
    },
    chosen: ({ extent }) => {
      const over = extent === 'marked' ? { by: 'output' as const, ...range } : extent === 'stays' ? before?.over : undefined; // prettier-ignore
      return { owner: 'film', ...(over && { over }) };
    },
  };
}
