import type { ProjectDocument, Source } from '@hastig/contract';
import { findSource, positionSeconds, replaceSet } from '@hastig/core';
import { useMemo, type ReactNode } from 'react';
import { spacingWords } from './beat-words';
import { markersOf, type MadeMoment } from './made-markers';
import { FormFields } from '../form/form-fields';
import { ProjectSheet } from '../form/project-sheet';
import { choiceField, type ChoiceSpec, type Specs, type Texts, type Values, type WordsSpec } from '../form/specs';
import { useEntries } from '../form/use-entries';
import { useAppDispatch, useSession } from '../store/hooks';
import { markerSetChosen } from '../store/session-slice';

/** Where markers are made: in all of the source, or between the marks. */
type Extent = 'all' | 'marked';

/** A source that is looked at or listened to, and the seconds of it that stand at a frame of what is on the stage. */
export interface Footage {
  source: Source;
  secondsAt(frame: number): number;
}

interface CommonSpecs extends Specs {
  set: WordsSpec;
  extent: ChoiceSpec<Extent>;
}

interface MadeSheetProps<S extends Specs> {
  title: string;
  /** What the edit is called in the history. */
  label: string;
  footage: Footage;
  /** The name of the set that is suggested. */
  set: string;
  fields(): S;
  /** The moments that become markers, for the values. */
  moments(values: Values<S>): MadeMoment[];
  onClose(): void;
  /** Over the fields; may put other texts into them. */
  children?(set: (change: Texts) => void): ReactNode;
}

/** Characters of a set's name at most. */
const LONGEST = 60;

function commonSpecs(set: string, marked: boolean): CommonSpecs {
  return {
    extent: {
      ...choiceField<Extent>('Apply to', marked ? 'marked' : 'all', [
        { value: 'all', label: 'Whole source' },
        { value: 'marked', label: 'In to out' },
      ]),
      when: () => marked,
    },
    set: {
      kind: 'words',
      label: 'Set',
      initial: set,
      hint: () => 'Markers of this set are replaced.',
      fault: (text) => ([...text].length > LONGEST ? `can have at most ${LONGEST} characters` : undefined),
    },
  };
}

/** A sheet that makes markers of a set: tried out where they stand while its fields are filled in. */
export function MadeSheet<S extends Specs>(props: MadeSheetProps<S>) {
  const { title, label, footage, set: suggested, fields, moments, onClose, children } = props;
  const { source } = footage;
  const dispatch = useAppDispatch();
  const { marks } = useSession('marks');
  const marked = marks.from !== null || marks.to !== null;
  const { specs, texts, values, faults, set } = useEntries(() => ({
    ...fields(),
    ...commonSpecs(suggested, marked),
  }));
  const key = values && JSON.stringify([values, marks]);
  // By what they say, not by who they are: the same values make the same markers.
  const made = useMemo(() => {
    if (!values) return undefined;
    const { set: named, extent } = values as Values<CommonSpecs>;
    const name = named.trim();
    const ends = [marks.from, marks.to].map((at) => (at === null ? undefined : footage.secondsAt(at)));
    const [from = -Infinity, to = Infinity] = extent === 'marked' ? ends : [];
    const inside = (seconds: number): boolean =>
      seconds >= Math.min(from, to) - SAME && seconds < Math.max(from, to) - SAME;
    const found = moments(values as Values<S>).filter(({ seconds }) => inside(seconds));
    const markers = markersOf(source, found, name);
    const edit = (project: ProjectDocument): ProjectDocument => {
      // What lies outside the range stays.
      const kept = (findSource(project, source.id)?.markers ?? []).filter(
        (marker) => (marker.set ?? '') === name && !inside(positionSeconds(source, marker.at)),
      );
      return replaceSet(project, source.id, name, [...kept, ...markers]);
    };
    return { name, markers, edit };
  }, [key, source]);
  return (
    <ProjectSheet
      {...{ title, label, onClose }}
      edit={made?.edit}
      // What was made is what is worked with next.
      onApplied={() => dispatch(markerSetChosen(made?.name ?? null))}
      outcome={() => spacingWords((made?.markers ?? []).map(({ at }) => positionSeconds(source, at)))}
    >
      {children?.(set)}
      <FormFields specs={specs} texts={texts} faults={faults} onChange={(name, text) => set({ [name]: text })} />
    </ProjectSheet>
  );
}

/** Seconds that rounding may take. */
const SAME = 1e-9;
