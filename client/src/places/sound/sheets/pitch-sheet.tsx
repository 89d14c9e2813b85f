import type { PitchMode, PitchSettings } from '@hastig/contract';
import { compile, findClip, pitchSettingsAt, plainSound, setPitch, setSound, soundOf, findSource } from '@hastig/core';
import { useMemo } from 'react';
import { Text } from 'react-native';
import { ProjectForm } from '../../../form/project-form';
import { choiceField, factorField, numberField, onlyWhen } from '../../../form/specs';
import { focusOptions, freezeOptions, pitchWords, roughWords } from '../../../sound/pitch-words';
import { speedsOf } from '../../../stage/strip';
import { useAppSelector, useSession } from '../../../store/hooks';
import type { SoundSheetProps } from '../commands/context';

/** Cents by which a pitch is shifted at most, and the greatest speed above which sound fades. */
const MOST_CENTS = 4800;
const FASTEST = 1000;
/** Parts of a clip that are looked at for its speeds. */
const LOOKS = 500;

type Extent = 'clip' | 'marked' | 'clips';

/** Semitones and what is left of them in cents, each of the sign of the whole. */
const parted = (cents: number): { semitones: number; rest: number } => {
  const semitones = Math.trunc(cents / 100);
  return { semitones, rest: cents - 100 * semitones };
};

/** What becomes of the pitch: of the clip, of what lies between in and out, or of several clips. */
export function PitchSheet({ clipId, map, onClose }: SoundSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const { marks, selectedClips } = useSession('marks', 'selectedClips');
  const clip = findClip(project, clipId)!;
  const settings = clip.sound ?? plainSound;
  const { length } = compile(map);
  const marked = marks.from !== null || marks.to !== null;
  const range = { from: marks.from ?? 0, to: Math.min(length, marks.to ?? length) };
  const audible = selectedClips.filter((id) => {
    const one = findClip(project, id);
    const source = one?.of.kind === 'source' ? findSource(project, one.of.id) : undefined;
    return one && (!source || soundOf(source));
  });
  const several = audible.length > 1 && audible.includes(clipId);
  const now = marked ? pitchSettingsAt(settings, range.from) : settings;
  const { semitones, rest } = parted(now.cents);
  const rough = useMemo(() => roughWords(speedsOf(map, LOOKS)), [map]);
  const noKeys = (): boolean => !settings.keys?.cents;
  return (
    <ProjectForm
      title="Pitch"
      label="change pitch"
      clipId={clipId}
      onClose={onClose}
      fields={() => ({
        extent: {
          ...choiceField<Extent>('Apply to', marked ? 'marked' : 'clip', [
            { value: 'clip', label: 'Clip' },
            ...(marked ? [{ value: 'marked' as const, label: 'In to out' }] : []),
            ...(several ? [{ value: 'clips' as const, label: `${audible.length} clips` }] : []),
          ]),
          // Where there is no choice none is offered.
          when: () => marked || several,
        },
        pitch: choiceField<PitchMode>('When the speed changes, pitch', now.pitch, [
          { value: 'follows', label: 'Follows' },
          { value: 'kept', label: 'Is kept' },
        ]),
        semitones: { ...numberField('Semitones', String(semitones), -48, 48), when: noKeys },
        cents: { ...numberField('Cents', String(Math.round(10 * rest) / 10), -100, 100), when: noKeys },
        formants: choiceField<PitchSettings['formants']>('Formants', now.formants, [
          { value: 'shifted', label: 'Shift along' },
          { value: 'kept', label: 'Keep (voices)' },
        ]),
        focus: choiceField('Best for', now.focus, focusOptions),
        freeze: onlyWhen(choiceField('In a freeze', settings.freeze, freezeOptions), 'pitch', 'kept'),
        fast: choiceField<'heard' | 'faded'>('Very fast parts', settings.quietAbove ? 'faded' : 'heard', [
          { value: 'heard', label: 'Heard' },
          { value: 'faded', label: 'Fade out' },
        ]),
        above: onlyWhen(factorField('Fade above', `${Math.round(100 * (settings.quietAbove ?? 4))}%`), 'fast', 'faded'),
      })}
      edit={({ extent, semitones: whole, cents: part, freeze, fast, above, ...voice }) => {
        const cents = Math.min(MOST_CENTS, Math.max(-MOST_CENTS, 100 * whole + part));
        const pitch: PitchSettings = { ...voice, cents };
        const ids = extent === 'clips' ? audible : [clipId];
        return (before) =>
          setSound(setPitch(before, ids, pitch, extent === 'marked' ? range : null), ids, (one) => {
            const { quietAbove: _old, ...others } = one;
            return {
              ...others,
              freeze,
              ...(fast === 'faded' && { quietAbove: Math.min(FASTEST, Math.max(1, above)) }),
            };
          });
      }}
      outcome={(_, after) => {
        const sound = findClip(after, clipId)?.sound ?? plainSound;
        const parts = sound.parts?.length ?? 0;
        return `${pitchWords(sound)}${parts === 0 ? '' : `; ${parts} ${parts === 1 ? 'part differs' : 'parts differ'}`}`;
      }}
    >
      {rough ? <Text className="font-sans text-[13px] text-quiet">{rough}</Text> : null}
      {noKeys() ? null : (
        <Text className="font-sans text-[13px] text-quiet">The pitch shift has keys. Edit it in Keys.</Text>
      )}
      {marked ? null : (
        <Text className="font-sans text-[13px] text-quiet">
          To decide for a part only, mark in and out first, or tap the part in the row of pitches.
        </Text>
      )}
    </ProjectForm>
  );
}
