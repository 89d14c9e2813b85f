import {
  easeSpan,
  easeRamp,
  fit,
  formatPercent,
  formatSourceFrame,
  formatTime,
  frameCount,
  freeze,
  heldFrame,
  isConstantSpeed,
  moveRampEdge,
  paceRange,
  ramp,
  rampAtKey,
  replay,
  reverseRange,
  setPartSpeed,
  setSpeed,
  speedAt,
  spanEase,
  widenRamp,
  type FitEnding,
  type RampPlace,
  type RangePace,
  type ReplayWay,
} from '@hastig/core';
import { FormSheet, type SheetProps } from './form-sheet';
import { partOf } from '../../../form/read';
import {
  choiceField,
  easeField,
  factorField,
  keepsField,
  lengthField,
  onlyWhen,
  rangeField,
  speedField,
} from '../../../form/specs';

export function SpeedSheet(props: SheetProps) {
  return (
    <FormSheet
      {...props}
      title="Speed"
      label="set the speed"
      fields={({ map, playhead }) => ({
        range: rangeField,
        speed: speedField('Speed', formatPercent(speedAt(map, playhead)), '40%, 0.4 or x0.4; minus plays backwards'),
        keeps: keepsField,
      })}
      edit={({ range, speed, keeps }) =>
        (map) =>
          range.part === undefined ? setSpeed(map, range, speed, keeps) : setPartSpeed(map, range.part, speed, keeps)
        }
    />
  );
}

/** A range at once: what it is given, and the ramps at its two edges. */
export function RangeSheet(props: SheetProps) {
  return (
    <FormSheet
      {...props}
      title="Set range"
      label="set a range"
      fields={({ map, unit }) => ({
        range: rangeField,
        give: choiceField<RangePace['give']>('Change to', 'speed', [
          { value: 'speed', label: 'Speed' },
          { value: 'duration', label: 'Duration' },
          { value: 'reverse', label: 'Reverse' },
          { value: 'freeze', label: 'Freeze' },
        ]),
        speed: onlyWhen(speedField('Speed', '50%', 'percent or factor'), 'give', 'speed'),
        frames: onlyWhen(lengthField('Duration', '2s', map.outputRate, unit), 'give', 'duration'),
        edges: lengthField('Ramps at both ends', '8f', map.outputRate, unit, 0),
        keeps: onlyWhen(keepsField, 'give', 'speed'),
        ease: easeField(),
      })}
      edit={({ range, give, speed, frames, edges, keeps, ease }) => {
        const pace: RangePace =
          give === 'speed' ? { give, speed, keeps } : give === 'duration' ? { give, frames } : { give };
        return (map) => paceRange(map, range, pace, { frames: edges, ease });
      }}
    />
  );
}

export function RampSheet(props: SheetProps) {
  return (
    <FormSheet
      {...props}
      title="Ramp at playhead"
      label="make a ramp"
      fields={({ map, unit, playhead }) => {
        const before = speedAt(map, Math.max(0, playhead - 1e-6));
        return {
          from: speedField('Speed before', formatPercent(before)),
          to: speedField('Speed after', formatPercent(before === 1 ? 0.5 : 1)),
          frames: lengthField('Duration', '12f', map.outputRate, unit),
          ease: easeField('ease-in-out', 12),
          place: choiceField<RampPlace>('Position', 'centred', [
            { value: 'ending', label: 'Ends here' },
            { value: 'centred', label: 'Centred here' },
            { value: 'starting', label: 'Starts here' },
          ]),
          keeps: keepsField,
        };
      }}
      edit={({ from, to, frames, ease, place, keeps }, { map, playhead }) => {
        const before = speedAt(map, Math.max(0, playhead - 1e-6));
        const options = { at: playhead, frames, to, ease, place, keeps };
        // Untouched, the speed before stays exactly what it is, not what its two decimals say.
        const touched = formatPercent(from) !== formatPercent(before);
        return (now) => ramp(now, touched ? { ...options, from } : options);
      }}
    />
  );
}

type RampSide = 'both' | 'start' | 'end';

/** How long the ramp lasts that is selected or at the playhead, and which of its edges moves. */
export function RampWidthSheet(props: SheetProps) {
  return (
    <FormSheet
      {...props}
      title="Ramp width"
      label="widen a ramp"
      fields={(context) => {
        const span = context.map.spans[partOf(context)]!;
        const frames = isConstantSpeed(span) ? 12 : Math.round(span.frames * 100) / 100;
        return {
          frames: lengthField('Duration', `${frames}f`, context.map.outputRate, context.unit),
          side: choiceField<RampSide>('Move', 'both', [
            { value: 'both', label: 'Both ends' },
            { value: 'start', label: 'Start' },
            { value: 'end', label: 'End' },
          ]),
        };
      }}
      edit={({ frames, side }, context) => {
        const index = partOf(context);
        return (map) => {
          // A key between two held speeds is a ramp of no width yet.
          if (isConstantSpeed(map.spans[index]!)) return rampAtKey(map, index, frames);
          return side === 'both'
            ? widenRamp(map, index, frames)
            : moveRampEdge(map, index, side === 'start' ? -1 : 1, frames);
        };
      }}
    />
  );
}

/** Another shape for the ramp that is selected or at the playhead. */
export function EaseSheet(props: SheetProps) {
  return (
    <FormSheet
      {...props}
      title="Ramp ease"
      label="ease a ramp"
      fields={(context) => ({
        ease: easeField('ease-in-out', Math.round(context.map.spans[partOf(context)]!.frames * 100) / 100),
        keeps: keepsField,
      })}
      edit={({ ease, keeps }, context) => {
        const index = partOf(context);
        return (map) => {
          const [before, span, after] = [map.spans[index - 1], map.spans[index], map.spans[index + 1]];
          const between = before && after && isConstantSpeed(before) && isConstantSpeed(after);
          return span && spanEase(span) && between ? easeRamp(map, index, ease) : easeSpan(map, index, ease, keeps);
        };
      }}
    />
  );
}

export function FreezeSheet(props: SheetProps) {
  return (
    <FormSheet
      {...props}
      title="Freeze"
      label="freeze"
      fields={({ map, unit, playhead }) => ({
        frames: {
          ...lengthField('Duration', '1s', map.outputRate, unit),
          hint: `12f, 1.5s or 1:12; holds source frame ${formatSourceFrame(heldFrame(map, playhead), unit)}`,
        },
        keeps: choiceField<'content' | 'length'>('Mode', 'content', [
          { value: 'content', label: 'Insert' },
          { value: 'length', label: 'Overwrite' },
        ]),
      })}
      edit={({ frames, keeps }, { playhead }) => {
        const rounded = Math.max(1, Math.round(frames));
        return (map) => freeze(map, playhead, rounded, keeps);
      }}
    />
  );
}

export function ReverseSheet(props: SheetProps) {
  return (
    <FormSheet
      {...props}
      title="Reverse"
      label="reverse"
      fields={() => ({ range: rangeField })}
      edit={({ range }) =>
        (map) =>
          reverseRange(map, range)
        }
    />
  );
}

export function ReplaySheet(props: SheetProps) {
  return (
    <FormSheet
      {...props}
      title="Replay"
      label="replay"
      fields={() => ({
        range: rangeField,
        way: choiceField<ReplayWay>('Direction', 'again', [
          { value: 'again', label: 'Forward' },
          { value: 'back-and-forth', label: 'Back, then forward' },
        ]),
        speed: factorField('Replay speed', '50%', 'relative to the range'),
      })}
      edit={({ range, way, speed }) =>
        (map) =>
          replay(map, range, way, speed)
        }
    />
  );
}

/** The whole clip to a length: typed as such, or by how much faster it shall be. */
export function FitSheet(props: SheetProps) {
  const { map } = props;
  const frames = frameCount(map);
  return (
    <FormSheet
      {...props}
      title="Fit to duration"
      label="fit"
      fields={({ unit }) => ({
        by: choiceField('By', 'length', [
          { value: 'length', label: 'Duration' },
          { value: 'speed', label: 'Percent or factor' },
        ]),
        frames: onlyWhen(
          {
            ...lengthField('New duration', formatTime(frames, map.outputRate, unit), map.outputRate, unit),
            hint: 'locked parts don’t change',
          },
          'by',
          'length',
        ),
        speed: onlyWhen(factorField('Relative speed', '100%', '50% makes it twice as long'), 'by', 'speed'),
        ending: choiceField<FitEnding>('Last frame', 'through', [
          { value: 'through', label: 'Run through' },
          { value: 'last-frame', label: 'Show it in full' },
        ]),
      })}
      edit={({ by, frames: wanted, speed, ending }) => {
        const length = by === 'length' ? Math.max(1, Math.round(wanted)) : Math.max(1, Math.round(frames / speed));
        return (now) => fit(now, length, ending);
      }}
    />
  );
}
