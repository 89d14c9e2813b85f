import type { Clip } from '@hastig/contract';
import {
  footageKind,
  formatFactor,
  formatMoment,
  formatPercent,
  formatTime,
  handlesOf,
  moveClips,
  muteClip,
  paceClip,
  parseMoment,
  parseSpeed,
  parseTime,
  placeOf,
  renameClip,
  SEQUENCE,
  shownSpeed,
  speedClip,
  trimClip,
  withLengthMode,
  type Parsed,
} from '@hastig/core';
import { Text, View } from 'react-native';
import { deafWords } from '../../project/deaf-words';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useAppSelector, useSession } from '../../store/hooks';
import { Choice } from '../../ui/choice';
import { NameField } from '../../ui/name-field';
import { TapNumber } from '../../ui/tap-number';
import type { ProjectEdit } from '../../form/project-sheet';

/** A clip's numbers, each typed or stepped where it stands. */
export function ClipNumbers({ clip }: { clip: Clip }) {
  const dispatch = useAppDispatch();
  const project = useAppSelector((state) => state.project.document)!;
  const { unit, rippleMode } = useSession('unit', 'rippleMode');
  const place = placeOf(project, clip.id)!;
  const { rate } = place.container;
  const start = place.containerId === SEQUENCE ? project.sequence.startFrame : 0;
  const speed = shownSpeed(project, clip.id);
  const handles = handlesOf(project, clip.id);
  const { frames } = clip.shown;
  const kind = footageKind(project, clip);
  const silent = kind === 'still' || kind === 'stills';
  const deaf = deafWords(project, clip);

  const run = (label: string, edit: ProjectEdit): void => void dispatch(rearrange(label, edit));
  const typed = (parsed: Parsed, change: (value: number) => void): string | undefined => {
    if (!parsed.ok) return parsed.reason;
    change(parsed.value);
    return undefined;
  };
  const moveTo = (at: number): void =>
    run('move a clip', (now) => moveClips(now, [clip.id], place.track.id, at, rippleMode));
  const pace = (length: number): void => run('set the length of a clip', (now) => paceClip(now, clip.id, length));
  const setSpeed = (factor: number): void => run('set the speed of a clip', (now) => speedClip(now, clip.id, factor));
  const trim = (side: 'start' | 'end', by: number): void =>
    run('trim a clip', (now) => trimClip(now, clip.id, side, by, rippleMode));
  const enterSpeed = (text: string): string | undefined => {
    const parsed = parseSpeed(text);
    if (parsed.ok && !(parsed.value > 0)) return 'must be more than 0: reverse and freeze are in Pace';
    return typed(parsed, setSpeed);
  };
  const enterLength = (text: string): string | undefined => {
    const parsed = parseTime(text, rate, unit);
    if (parsed.ok && Math.round(parsed.value) < 1) return 'must be at least one frame';
    return typed(parsed, (value) => pace(Math.round(value)));
  };
  const enterStart = (text: string): string | undefined => {
    const parsed = parseMoment(text, rate, unit);
    if (parsed.ok && parsed.value < start) return 'is before the start';
    return typed(parsed, (value) => moveTo(Math.floor(value) - start));
  };
  const rename = (name: string): void => run('rename a clip', (now) => renameClip(now, clip.id, name));

  return (
    <>
      <NameField label="Name" name={clip.name} onName={rename} />
      <View className="flex-row">
        <TapNumber
          label="Start"
          text={formatMoment(place.from + start, rate, unit)}
          onEnter={enterStart}
          onStep={(by) => moveTo(Math.max(0, place.from + by))}
        />
        <TapNumber
          label="Duration"
          text={formatTime(frames, rate, unit)}
          onEnter={enterLength}
          onStep={(by) => pace(Math.max(1, frames + by))}
        />
      </View>
      {kind === 'still' ? null : (
        <View className="flex-row">
          <TapNumber
            label="Percent"
            text={formatPercent(speed)}
            onEnter={enterSpeed}
            onStep={(by) => setSpeed(Math.max(0.01, Math.abs(speed) + by * 0.01))}
          />
          <TapNumber label="Factor" text={formatFactor(speed)} onEnter={enterSpeed} />
        </View>
      )}
      <View className="flex-row">
        <TapNumber
          label="Head handle"
          text={formatTime(handles.head, rate, unit)}
          onEnter={(text) =>
            typed(parseTime(text, rate, unit), (value) => trim('start', Math.round(value) - handles.head))
          }
          onStep={(by) => trim('start', by)}
        />
        <TapNumber
          label="Tail handle"
          text={formatTime(handles.tail, rate, unit)}
          onEnter={(text) =>
            typed(parseTime(text, rate, unit), (value) => trim('end', handles.tail - Math.round(value)))
          }
          onStep={(by) => trim('end', -by)}
        />
      </View>
      <Choice
        label="When retimed"
        value={clip.length}
        onChange={(mode) => run('choose what retiming does', (now) => withLengthMode(now, clip.id, mode))}
        options={[
          { value: 'ripple', label: 'Ripple' },
          { value: 'slot', label: 'Keep duration' },
        ]}
      />
      {silent ? null : (
        <Choice
          label="Sound"
          value={clip.muted ? 'off' : 'on'}
          onChange={(value) =>
            run(value === 'off' ? 'mute a clip' : 'unmute a clip', (now) => muteClip(now, clip.id, value === 'off'))
          }
          options={[
            { value: 'on', label: 'On' },
            { value: 'off', label: 'Muted' },
          ]}
        />
      )}
      {deaf ? <Text className="font-sans text-[13px] text-wrong">{deaf}</Text> : null}
      <Text className="font-sans text-[13px] text-quiet">
        {`${frames} frames on ${place.track.name}${clip.of.kind === 'group' ? '; a group' : ''}`}
      </Text>
    </>
  );
}
