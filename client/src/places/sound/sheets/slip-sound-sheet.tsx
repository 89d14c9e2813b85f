import { findClip, findSource, slipSound, soundOf } from '@hastig/core';
import { ProjectForm } from '../../../form/project-form';
import { choiceField, numberField } from '../../../form/specs';
import { useAppSelector } from '../../../store/hooks';
import type { SoundSheetProps } from '../commands/context';

/** Most seconds that sound is slipped by in one go. */
const MOST = 60;

/** Sound moved against its timing by samples or milliseconds, to mend what is out of step. */
export function SlipSoundSheet({ clipId, onClose }: SoundSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const clip = findClip(project, clipId)!;
  const source = clip.of.kind === 'source' ? findSource(project, clip.of.id) : undefined;
  const rate = (source && soundOf(source)?.sampleRate) ?? project.sequence.sampleRate;
  const withPicture = source?.facts.video && !clip.soundFrom;
  const seconds = (unit: 'ms' | 'samples', by: number): number => (unit === 'ms' ? by / 1000 : by / rate);
  return (
    <ProjectForm
      title="Slip sound"
      label="slip sound"
      clipId={clipId}
      onClose={onClose}
      fields={() => ({
        unit: choiceField<'ms' | 'samples'>('Count in', 'ms', [
          { value: 'ms', label: 'Milliseconds' },
          { value: 'samples', label: 'Samples' },
        ]),
        by: numberField('Slip by', '0', -MOST * rate, MOST * rate, 'minus is earlier'),
      })}
      edit={({ unit, by }) =>
        (now) =>
          slipSound(now, clipId, seconds(unit, by))
        }
      outcome={() =>
        withPicture ? 'The picture is slipped too. Detach the sound to move it alone.' : `Samples: ${rate} a second`
      }
    />
  );
}
