import {
  bursts,
  drive,
  everyNth,
  followLoudness,
  loudnessOf,
  placeOf,
  type BurstPlace,
  type DriveShape,
  type OnsetBand,
} from '@hastig/core';
import { chosenMusic, contentSeconds } from '../../../beats/music';
import { useBeside } from '../../../beats/use-beside';
import { useEnvelope } from '../../../beats/use-envelope';
import {
  choiceField,
  countField,
  easeField,
  factorField,
  keepsField,
  lengthField,
  numberField,
  onlyWhen,
  rangeField,
  speedField,
} from '../../../form/specs';
import { useAppSelector, useSession } from '../../../store/hooks';
import { EmptySheet } from '../../../ui/empty-sheet';
import { FormSheet, type SheetProps } from './form-sheet';

const NO_MARKERS = 'No markers pass while this clip is shown. Set some in Beats first.';

export function BurstsSheet(props: SheetProps) {
  const beside = useBeside(props.clipId);
  if (beside.markers.length === 0)
    return <EmptySheet title="Bursts on markers" words={NO_MARKERS} onClose={props.onClose} />;
  return (
    <FormSheet
      {...props}
      title="Bursts on markers"
      label="bursts"
      fields={({ map, unit }) => ({
        marks: beside.field(),
        every: countField('Every nth marker', '1', 1),
        range: rangeField,
        base: speedField('Base speed', '50%'),
        speed: speedField('Burst speed', '800%'),
        turns: choiceField<'same' | 'alternate'>('Bursts', 'same', [
          { value: 'same', label: 'All at this speed' },
          { value: 'alternate', label: 'Alternate' },
        ]),
        second: onlyWhen(speedField('Second speed', '400%', 'of every other burst'), 'turns', 'alternate'),
        frames: lengthField('Burst duration', '5f', map.outputRate, unit),
        ramp: lengthField('Ramp at each edge', '0f', map.outputRate, unit, 0),
        place: choiceField<BurstPlace>('Burst lies', 'from', [
          { value: 'from', label: 'From marker' },
          { value: 'to', label: 'Up to marker' },
          { value: 'centred', label: 'Centred' },
        ]),
        ease: easeField('ease-in-out'),
        keeps: keepsField,
      })}
      edit={({ marks, every, range, base, speed, turns, second, frames, ramp, place, ease, keeps }) =>
        (map) =>
          bursts(map, range, everyNth(beside.times(marks), every), {
            ...{ base, frames, ramp, place, ease, keeps },
            speeds: turns === 'same' ? [speed] : [speed, second],
          })
        }
    />
  );
}

export function DriveSheet(props: SheetProps) {
  const beside = useBeside(props.clipId);
  if (beside.markers.length === 0)
    return <EmptySheet title="Drive to markers" words={NO_MARKERS} onClose={props.onClose} />;
  return (
    <FormSheet
      {...props}
      title="Drive to markers"
      label="drive"
      fields={() => ({
        marks: beside.field(),
        every: countField('Every nth marker', '1', 1),
        range: rangeField,
        shape: choiceField<DriveShape>('Speed', 'rise', [
          { value: 'rise', label: 'Rises to each marker' },
          { value: 'change', label: 'Changes at each marker' },
        ]),
        low: speedField('Low speed', '40%'),
        high: speedField('High speed', '200%'),
        ease: onlyWhen(easeField('ease-in'), 'shape', 'rise'),
        keeps: keepsField,
      })}
      edit={({ marks, every, range, shape, low, high, ease, keeps }) =>
        (map) =>
          drive(map, range, everyNth(beside.times(marks), every), { shape, low, high, ease, keeps })
        }
    />
  );
}

export function FollowSheet(props: SheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const { selectedClips } = useSession('selectedClips');
  const place = placeOf(project, props.clipId);
  const music = place && chosenMusic(project, place.containerId, selectedClips);
  const envelope = useEnvelope(music?.source);
  if (!place || !music || !envelope) {
    return (
      <EmptySheet
        title="Follow loudness"
        words={music ? 'Analysing the music…' : 'Nothing beside this clip has sound. Add music to the timeline first.'}
        onClose={props.onClose}
      />
    );
  }
  const { shown } = project.clips.find(({ id }) => id === props.clipId)!;
  return (
    <FormSheet
      {...props}
      title="Follow loudness"
      label="follow loudness"
      fields={() => ({
        range: rangeField,
        band: choiceField<OnsetBand | 'all'>(`Band of ${music.clip.name}`, 'all', [
          { value: 'all', label: 'All' },
          { value: 'low', label: 'Low' },
          { value: 'mid', label: 'Mid' },
          { value: 'high', label: 'High' },
        ]),
        floor: factorField('Speed when silent', '40%'),
        ceiling: factorField('Speed when loudest', '250%'),
        fall: numberField('Falls within (ms)', '400', 10, 60_000),
        keeps: keepsField,
      })}
      edit={({ range, band, floor, ceiling, fall, keeps }) => {
        const loudness = loudnessOf(envelope, band, fall / 1000);
        const at = (frame: number): number => loudness(contentSeconds(project, music, frame - shown.from + place.from));
        return (map) => followLoudness(map, range, at, { floor, ceiling, keeps });
      }}
    />
  );
}
