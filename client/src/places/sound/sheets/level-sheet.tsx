import type { Fade, FadeShape, SoundSettings } from '@hastig/contract';
import { findClip, formatTime, placeOf, plainSound, setSound } from '@hastig/core';
import { ProjectForm } from '../../../form/project-form';
import { choiceField, lengthField, numberField } from '../../../form/specs';
import { decibelWords, fadeOptions } from '../../../sound/pitch-words';
import { useAppSelector } from '../../../store/hooks';
import type { SoundSheetProps } from '../commands/context';

const fadeOf = (frames: number, shape: FadeShape): Fade | undefined => (frames > 0 ? { frames, shape } : undefined);

// What was not touched keeps the course it has, also as a part of a fade that was split.
const kept = (old: Fade | undefined, now: Fade): Fade =>
  old && old.frames === now.frames && old.shape === now.shape ? old : now;

/** Gain, pan and fades of a clip. */
export function LevelSheet({ clipId, map, onClose }: SoundSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const settings = findClip(project, clipId)?.sound ?? plainSound;
  const { fadeIn, fadeOut, cross } = settings;
  const place = placeOf(project, clipId);
  const before = place?.track.items[place.itemIndex - 1];
  // Where no clip ends at this one's beginning there is nothing to take turns with.
  const atCut = (): boolean => before !== undefined && 'clip' in before;
  return (
    <ProjectForm
      title="Level and fades"
      label="change level"
      clipId={clipId}
      onClose={onClose}
      fields={({ unit }) => {
        const length = (fade: Fade | undefined): string => formatTime(fade?.frames ?? 0, map.outputRate, unit);
        const shape = (fade: Fade | undefined): FadeShape => fade?.shape ?? 'smooth';
        return {
          gain: { ...numberField('Gain (dB)', String(settings.gain), -96, 24), when: () => !settings.keys?.gain },
          pan: {
            ...numberField('Pan', String(Math.round(settings.pan * 100)), -100, 100, '−100 left, 100 right'),
            when: () => !settings.keys?.pan,
          },
          in: lengthField('Fade in', length(fadeIn), map.outputRate, unit, 0),
          inShape: choiceField('Fade-in shape', shape(fadeIn), fadeOptions),
          out: lengthField('Fade out', length(fadeOut), map.outputRate, unit, 0),
          outShape: choiceField('Fade-out shape', shape(fadeOut), fadeOptions),
          cross: {
            ...lengthField('Crossfade with the clip before', length(cross), map.outputRate, unit, 0),
            when: atCut,
          },
          crossShape: { ...choiceField('Crossfade shape', cross?.shape ?? 'equal', fadeOptions), when: atCut },
        };
      }}
      edit={(values) => (now) =>
        setSound(now, [clipId], ({ fadeIn: _in, fadeOut: _out, cross: _cross, ...rest }): SoundSettings => {
          const [begins, ends] = [fadeOf(values.in, values.inShape), fadeOf(values.out, values.outShape)];
          const turns = fadeOf(values.cross, values.crossShape);
          return {
            ...rest,
            gain: values.gain,
            pan: values.pan / 100,
            ...(begins && { fadeIn: kept(fadeIn, begins) }),
            ...(ends && { fadeOut: kept(fadeOut, ends) }),
            ...(turns && { cross: turns }),
          };
        })
      }
      outcome={(_, after) => {
        const { gain, pan } = findClip(after, clipId)?.sound ?? plainSound;
        const side = pan === 0 ? 'centre' : `${Math.round(Math.abs(pan) * 100)}% ${pan < 0 ? 'left' : 'right'}`;
        return settings.keys?.gain || settings.keys?.pan
          ? 'Gain or pan has keys: edit it in Keys'
          : `${decibelWords(gain)} dB, ${side}`;
      }}
    />
  );
}
