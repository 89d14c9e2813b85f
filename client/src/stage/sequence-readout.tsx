import {
  findContainer,
  findSource,
  formatMoment,
  formatSourceFrame,
  itemAt,
  parseMoment,
  parseSourceFrame,
  parseSpeed,
  programFrames,
  seenAt,
  SEQUENCE,
  speedAt,
  speedClip,
  type Program,
  type ProgramItem,
} from '@hastig/core';
import { Text, View } from 'react-native';
import { rearrange } from '../store/edit';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { stageProgram } from '../store/selectors';
import { TapNumber } from '../ui/tap-number';
import { useStable } from '../ui/use-stable';
import { ReadoutFrame, SpeedNumber } from './readout-frame';
import { useStage } from './stage-context';

/** The uppermost picture at an output frame. */
function seenItem(program: Program, frame: number): ProgramItem | undefined {
  const seen = seenAt(program, frame);
  const pictures = program.tracks.filter(({ kind }) => kind === 'picture');
  return seen && pictures.map((track) => itemAt(track, frame)).find((item) => item?.clipId === seen.clipId);
}

/** Output time of the sequence or group on the stage, and the source frame and speed of the clip seen there. */
export function SequenceReadout() {
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const program = useAppSelector(stageProgram);
  const unit = useAppSelector((state) => state.session.unit);
  const project = useAppSelector((state) => state.project.document)!;
  const container = useAppSelector(({ session: { target } }) =>
    target && 'container' in target ? target.container : SEQUENCE,
  );
  const frames = programFrames(program);
  const playhead = useAppSelector((state) => Math.min(state.session.playhead, frames - 1));
  // A sequence's timecode may start anywhere; a group's starts with it.
  const start = container === SEQUENCE ? project.sequence.startFrame : 0;
  const rate = findContainer(project, container)?.rate ?? program.rate;
  const seen = seenAt(program, playhead);
  const item = seenItem(program, playhead);
  const source = seen && findSource(project, seen.sourceId);

  const enterTime = useStable((text: string): string | undefined => {
    const parsed = parseMoment(text, rate, unit);
    if (!parsed.ok) return parsed.reason;
    const frame = Math.floor(parsed.value) - start;
    if (frame < 0 || frame >= frames) return `is outside the timeline, which has ${frames} frames`;
    seek(frame);
    return undefined;
  });
  const enterFrame = useStable((text: string): string | undefined => {
    const parsed = parseSourceFrame(text, unit);
    if (!parsed.ok) return parsed.reason;
    if (!item || !seen) return 'can’t be set: no clip at the playhead';
    const found = Array.from({ length: item.frames }, (_, n) => item.from + n).find((frame) => {
      const at = seenAt(program, frame);
      return at?.sourceId === seen.sourceId && at.frame === Math.floor(parsed.value);
    });
    if (found === undefined) return `${text.trim()} isn’t shown in this clip`;
    seek(found);
    return undefined;
  });
  const enterSpeed = useStable((text: string): string | undefined => {
    const parsed = parseSpeed(text);
    if (!parsed.ok) return parsed.reason;
    if (!item) return 'can’t be set: no clip at the playhead';
    if (!(parsed.value > 0)) return 'must be more than 0: reverse and freeze are in Pace';
    dispatch(rearrange('set the speed of a clip', (now) => speedClip(now, item.clipId, parsed.value)));
    return undefined;
  });

  return (
    <ReadoutFrame>
      <TapNumber long label="Output" text={formatMoment(playhead + start, rate, unit)} onEnter={enterTime} />
      {seen && item ? (
        <>
          <TapNumber
            label={source?.name.replace(/\.[^.]+$/, '') ?? 'Source frame'}
            text={formatSourceFrame(seen.frame, unit).padStart(4, '0')}
            onEnter={enterFrame}
          />
          <SpeedNumber speed={speedAt(item.map, item.at + playhead - item.from)} onEnter={enterSpeed} />
        </>
      ) : (
        <View className="min-h-[44px] flex-[2] items-center justify-center">
          <Text className="font-sans text-[13px] text-quiet">No clip</Text>
        </View>
      )}
    </ReadoutFrame>
  );
}
