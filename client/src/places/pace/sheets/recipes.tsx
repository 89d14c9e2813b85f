import {
  rewind,
  stairs,
  stutter,
  surge,
  thereAndBack,
  timeLapse,
  type ThereAndBackOptions,
  type TimeLapseBy,
} from '@hastig/core';
import { FormSheet, type SheetProps } from './form-sheet';
import {
  choiceField,
  countField,
  easeField,
  factorField,
  keepsField,
  lengthField,
  onlyWhen,
  rangeField,
  shareField,
  speedField,
} from '../../../form/specs';

function SurgeLike({ outer, inner, name, ...props }: SheetProps & { outer: string; inner: string; name: string }) {
  return (
    <FormSheet
      {...props}
      title={name}
      label={name.toLowerCase()}
      fields={({ map, unit }) => ({
        range: rangeField,
        outer: speedField('Outer speed', outer),
        inner: speedField('Middle speed', inner),
        share: shareField('Middle share', '40%'),
        ramp: lengthField('Ramp duration', '10f', map.outputRate, unit),
        ease: easeField('ease-in-out', 10),
        keeps: keepsField,
      })}
      edit={({ range, outer: sides, inner: middle, share, ramp, ease, keeps }) =>
        (map) =>
          surge(map, range, { outer: sides, inner: middle, share, ramp, ease, keeps })
        }
    />
  );
}

/** Slow, fast, slow. */
export const SurgeSheet = (props: SheetProps) => <SurgeLike {...props} name="Surge" outer="50%" inner="300%" />;

/** Fast, slow, fast. */
export const DipSheet = (props: SheetProps) => <SurgeLike {...props} name="Dip" outer="200%" inner="40%" />;

export function StairsSheet(props: SheetProps) {
  return (
    <FormSheet
      {...props}
      title="Stairs from playhead"
      label="stairs"
      fields={({ map, unit }) => ({
        from: speedField('From speed', '80%'),
        to: speedField('To speed', '50%'),
        by: choiceField('Set steps by', 'step', [
          { value: 'step', label: 'Height' },
          { value: 'steps', label: 'Count' },
        ]),
        step: onlyWhen(factorField('Step height', '10%'), 'by', 'step'),
        steps: onlyWhen(countField('Number of steps', '4', 2), 'by', 'steps'),
        frames: lengthField('Step duration', '5f', map.outputRate, unit),
        keeps: keepsField,
      })}
      edit={({ from, to, by, step, steps, frames, keeps }, { playhead }) =>
        (map) =>
          stairs(map, playhead, { from, to, by: by === 'step' ? { step } : { steps }, frames, keeps })
        }
    />
  );
}

export function ThereAndBackSheet(props: SheetProps) {
  return (
    <FormSheet
      {...props}
      title="There and back"
      label="there and back"
      fields={({ map, unit }) => ({
        range: rangeField,
        ramp: lengthField('Ramp to each turn', '12f', map.outputRate, unit),
        ease: easeField('ease-in-out', 12),
        then: choiceField<ThereAndBackOptions['then']>('After returning', 'on', [
          { value: 'on', label: 'Play on' },
          { value: 'end', label: 'End the clip' },
        ]),
      })}
      edit={({ range, ramp, ease, then }) =>
        (map) =>
          thereAndBack(map, range, { ramp, ease, then })
        }
    />
  );
}

export function RewindSheet(props: SheetProps) {
  return (
    <FormSheet
      {...props}
      title="Rewind at playhead"
      label="rewind"
      fields={({ map, unit }) => ({
        back: countField('Source frames to rewind', '30', 1),
        speed: factorField('Rewind speed', '300%'),
        ramp: lengthField('Ramp duration', '6f', map.outputRate, unit, 0),
        ease: easeField('ease-in-out', 6),
      })}
      edit={({ back, speed, ramp, ease }, { playhead }) =>
        (map) =>
          rewind(map, playhead, { back, speed, ramp, ease })
        }
    />
  );
}

function HoldEvery({ name, every, ...props }: SheetProps & { name: string; every: string }) {
  return (
    <FormSheet
      {...props}
      title={name}
      label={name.toLowerCase()}
      fields={() => ({
        range: rangeField,
        every: countField('Hold each frame for', every, 2, 'output frames; those in between are skipped'),
      })}
      edit={({ range, every: frames }) =>
        (map) =>
          stutter(map, range, frames)
        }
    />
  );
}

export const StutterSheet = (props: SheetProps) => <HoldEvery {...props} name="Stutter" every="4" />;
export const StopMotionSheet = (props: SheetProps) => <HoldEvery {...props} name="Stop-motion" every="2" />;

export function TimeLapseSheet(props: SheetProps) {
  return (
    <FormSheet
      {...props}
      title="Time-lapse"
      label="time-lapse"
      fields={() => ({
        range: rangeField,
        by: choiceField<TimeLapseBy>('Set by', 'frames', [
          { value: 'frames', label: 'Every nth frame' },
          { value: 'speed', label: 'Speed' },
        ]),
        every: onlyWhen(countField('Every', '10', 2, 'source frames'), 'by', 'frames'),
        times: onlyWhen(factorField('Speed', 'x20'), 'by', 'speed'),
      })}
      edit={({ range, by, every, times }) =>
        (map) =>
          timeLapse(map, range, by === 'frames' ? every : times, by)
        }
    />
  );
}
