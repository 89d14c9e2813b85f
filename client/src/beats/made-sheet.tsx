import type { Marker } from '@hastig/contract';
import { findSource, positionSeconds, replaceSet } from '@hastig/core';
import { useMemo, type ReactNode } from 'react';
import { spacingWords } from './beat-words';
import { markersOf, type MadeMoment } from './made-markers';
import { contentSeconds, type MusicClip } from './music';
import { FormFields } from '../form/form-fields';
import { ProjectSheet } from '../form/project-sheet';
import { choiceField, type ChoiceSpec, type Specs, type Texts, type Values, type WordsSpec } from '../form/specs';
import { useEntries } from '../form/use-entries';
import { useAppDispatch, useAppSelector, useSession } from '../store/hooks';
import { markerSetChosen } from '../store/session-slice';

/** Where markers are made: in all of the music, or between the marks. */
type Extent = 'all' | 'marked';

interface CommonSpecs extends Specs {
  set: WordsSpec;
  extent: ChoiceSpec<Extent>;
}

interface MadeSheetProps<S extends Specs> {
  title: string;
  /** What the edit is called in the history. */
  label: string;
  music: MusicClip;
  /** The name of the set that is suggested. */
  set: string;
  fields(): S;
  /** The moments that become markers, for the values. */
  moments(values: Values<S>): MadeMoment[];
  onClose(): void;
  /** Over the fields; may put other texts into them. */
  children?(set: (change: Texts) => void): ReactNode;
}

function commonSpecs(set: string, marked: boolean): CommonSpecs {
  return {
    extent: {
      ...choiceField<Extent>('Apply to', marked ? 'marked' : 'all', [
        { value: 'all', label: 'All of the music' },
        { value: 'marked', label: 'In to out' },
      ]),
      when: () => marked,
    },
    set: {
      kind: 'words',
      label: 'Set',
      initial: set,
      hint: () => 'Markers of this set are replaced.',
      fault: (text) => ([...text].length > 60 ? 'can have at most 60 characters' : undefined),
    },
  };
}

/** A sheet that makes markers of a set: tried out over the waveform while its fields are filled in. */
export function MadeSheet<S extends Specs>(props: MadeSheetProps<S>) {
  const { title, label, music, set: suggested, fields, moments, onClose, children } = props;
  const dispatch = useAppDispatch();
  const project = useAppSelector((state) => state.project.document)!;
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
    const all = moments(values as Values<S>);
    const inside = extent === 'marked' ? all.filter(between(rangeOf())) : all;
    return { name: named.trim(), markers: markersOf(music.source, inside, named.trim()) };
  }, [key, music.source]);

  function rangeOf(): [number, number] {
    const from = contentSeconds(project, music, marks.from ?? music.from);
    const to = contentSeconds(project, music, marks.to ?? music.to);
    return [Math.min(from, to), Math.max(from, to)];
  }
  const edit = useMemo(
    () =>
      made &&
      ((now: typeof project) => {
        const { name, markers } = made;
        const source = findSource(now, music.source.id);
        // Only what lies in the range gives way to what was made there.
        const kept =
          texts.extent === 'marked' && source
            ? (source.markers ?? []).filter(
                (marker) => (marker.set ?? '') === name && !between(rangeOf())(secondsOf(marker)),
              )
            : [];
        return replaceSet(now, music.source.id, name, [...kept, ...markers]);
      }),
    [made, music.source.id, texts.extent],
  );
  const secondsOf = (marker: Marker): MadeMoment => ({
    seconds: positionSeconds(music.source, marker.at),
    kind: marker.kind ?? 'hand',
  });
  return (
    <ProjectSheet
      title={title}
      label={label}
      edit={edit}
      onClose={onClose}
      // What was made is what is worked with next.
      onApplied={() => dispatch(markerSetChosen(made?.name ?? null))}
      outcome={() => spacingWords((made?.markers ?? []).map(({ at }) => positionSeconds(music.source, at)))}
    >
      {children?.(set)}
      <FormFields specs={specs} texts={texts} faults={faults} onChange={(name, text) => set({ [name]: text })} />
    </ProjectSheet>
  );
}

const between =
  ([from, to]: [number, number]) =>
  ({ seconds }: { seconds: number }): boolean =>
    seconds >= from - 1e-9 && seconds < to;
