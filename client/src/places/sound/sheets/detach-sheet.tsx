import { attachSound, detachedSound, detachSound, placeOf, type DetachedTiming } from '@hastig/core';
import { useMemo } from 'react';
import { Text } from 'react-native';
import { ProjectForm } from '../../../form/project-form';
import { ProjectSheet } from '../../../form/project-sheet';
import { choiceField } from '../../../form/specs';
import { useAppSelector } from '../../../store/hooks';
import type { SoundSheetProps } from '../commands/context';
import { newId } from '../../../store/new-id';

/** A clip's sound made a clip of its own, or made one with it again. */
export function DetachSheet(props: SoundSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  return detachedSound(project, props.clipId) ? <Attach {...props} /> : <Detach {...props} />;
}

function Detach({ clipId, onClose }: SoundSheetProps) {
  // The same ones for as long as the sheet is open: what is tried out is what is kept.
  const ids = useMemo(() => ({ clip: newId(), track: newId() }), []);
  return (
    <ProjectForm
      title="Detach sound"
      label="detach sound"
      clipId={clipId}
      onClose={onClose}
      fields={() => ({
        timing: choiceField<DetachedTiming>('Timing', 'copied', [
          { value: 'copied', label: 'Same as picture' },
          { value: 'real', label: 'Real time' },
        ]),
      })}
      edit={({ timing }) =>
        (now) =>
          detachSound(now, clipId, timing, ids)
        }
      outcome={(_, after) => `On ${placeOf(after, ids.clip)?.track.name ?? 'a sound track'}; the picture is muted`}
    >
      <Text className="font-sans text-[13px] text-quiet">
        The sound stays where it is, as a clip of its own. Retiming the picture no longer changes it.
      </Text>
    </ProjectForm>
  );
}

function Attach({ clipId, onClose }: SoundSheetProps) {
  const edit = useMemo(() => (now: Parameters<typeof attachSound>[0]) => attachSound(now, clipId), [clipId]);
  return (
    <ProjectSheet
      title="Attach sound"
      label="attach sound"
      edit={edit}
      onClose={onClose}
      outcome={() => 'The clip’s own sound is back'}
    >
      <Text className="font-sans text-[14px] text-quiet">
        The detached sound is removed, and the clip’s own comes back with the picture’s timing. Its pitch and level are
        taken over.
      </Text>
    </ProjectSheet>
  );
}
