import type { TrackSound } from '@hastig/contract';
import { findContainer, placeOf, plainTrackSound, SEQUENCE, setMaster, setTrackSound } from '@hastig/core';
import { useState, type ReactNode } from 'react';
import { PlainForm } from '../form/project-form';
import { choiceField, numberField, onlyWhen } from '../form/specs';
import { useAppSelector } from '../store/hooks';
import { Choice } from '../ui/choice';

/** What stands for the mix as a whole among the tracks. */
const MASTER = ':master';
/** What stands for no track. */
const NONE = ':none';

interface MixSheetProps {
  containerId: string;
  /** The clip whose track is looked at first. */
  clipId: string | undefined;
  onClose(): void;
}

/** How tracks sound together: each by itself, giving way to another, and the mix as a whole. */
export function MixSheet({ clipId, containerId, onClose }: MixSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const { tracks } = findContainer(project, containerId)!;
  const own = clipId === undefined ? undefined : placeOf(project, clipId)?.track;
  const [chosen, choose] = useState(own?.id ?? (containerId === SEQUENCE ? MASTER : tracks[0]!.id));
  const picker = (
    <Choice
      label="Track"
      value={chosen}
      onChange={choose}
      options={[
        ...tracks.map(({ id, name }) => ({ value: id, label: name })),
        ...(containerId === SEQUENCE ? [{ value: MASTER, label: 'Whole mix' }] : []),
      ]}
    />
  );
  const given = { containerId, picker, onClose };
  return chosen === MASTER ? <WholeMix {...given} /> : <TrackMix key={chosen} trackId={chosen} {...given} />;
}

interface PartProps {
  containerId: string;
  picker: ReactNode;
  onClose(): void;
}

function TrackMix({ containerId, trackId, picker, onClose }: PartProps & { trackId: string }) {
  const project = useAppSelector((state) => state.project.document)!;
  const { tracks } = findContainer(project, containerId)!;
  const track = tracks.find(({ id }) => id === trackId)!;
  const sound = track.sound ?? plainTrackSound;
  const { duck } = sound;
  const others = tracks.filter(({ id }) => id !== trackId);
  return (
    <PlainForm
      title="Mix"
      label="change the mix"
      onClose={onClose}
      fields={() => ({
        heard: choiceField<'on' | 'muted' | 'solo'>('Heard', sound.muted ? 'muted' : sound.solo ? 'solo' : 'on', [
          { value: 'on', label: 'On' },
          { value: 'muted', label: 'Muted' },
          { value: 'solo', label: 'Solo' },
        ]),
        gain: numberField('Gain (dB)', String(sound.gain), -96, 24),
        pan: numberField('Pan', String(Math.round(sound.pan * 100)), -100, 100, '−100 left, 100 right'),
        under: choiceField('Duck under', duck?.under ?? NONE, [
          { value: NONE, label: 'None' },
          ...others.map(({ id, name }) => ({ value: id, label: name })),
        ]),
        ...(Object.fromEntries(
          Object.entries({
            threshold: numberField('When louder than (dB)', String(duck?.threshold ?? -40), -96, 0),
            amount: numberField('Down by (dB)', String(duck?.amount ?? 12), 0, 96),
            attack: numberField('Attack (s)', String(duck?.attack ?? 0.2), 0, 10),
            release: numberField('Release (s)', String(duck?.release ?? 0.6), 0, 30),
          }).map(([name, spec]) => [name, onlyWhen(spec, 'under', ...others.map(({ id }) => id))]),
        ) as Record<'threshold' | 'amount' | 'attack' | 'release', ReturnType<typeof numberField>>),
      })}
      edit={({ heard, gain, pan, under, threshold, amount, attack, release }) => {
        const next: TrackSound = {
          gain,
          pan: pan / 100,
          ...(heard === 'muted' && { muted: true }),
          ...(heard === 'solo' && { solo: true }),
          ...(under !== NONE && { duck: { under, threshold, amount, attack, release } }),
        };
        return (before) => setTrackSound(before, containerId, trackId, next);
      }}
      outcome={() => `${track.name}. Play the timeline to hear it`}
      lead={picker}
    />
  );
}

function WholeMix({ picker, onClose }: PartProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const { master } = project.sequence;
  return (
    <PlainForm
      title="Mix"
      label="change the mix"
      onClose={onClose}
      fields={() => ({
        gain: numberField('Gain (dB)', String(master?.gain ?? 0), -96, 24),
        limiter: choiceField<'off' | 'on'>('Limiter', master?.limit === undefined ? 'off' : 'on', [
          { value: 'off', label: 'Off' },
          { value: 'on', label: 'On' },
        ]),
        limit: onlyWhen(numberField('True peaks under (dBTP)', String(master?.limit ?? -1), -24, 0), 'limiter', 'on'),
      })}
      edit={({ gain, limiter, limit }) =>
        (before) =>
          setMaster(before, { gain, ...(limiter === 'on' && { limit }) })
        }
      outcome={() => 'Play the timeline to hear it'}
      lead={picker}
    />
  );
}
