import { comparedTimes, compareSides, formatFactor, formatMoment, formatSourceFrame, motionAt, parseMoment, programFrames } from '@hastig/core'; // prettier-ignore
import { Text, View } from 'react-native';
import { useAppSelector } from '../store/hooks';
import { stageProgram } from '../store/selectors';
import { speedGlyph } from '../ui/palette';
import { TapNumber } from '../ui/tap-number';
import { useStable } from '../ui/use-stable';
import { ReadoutFrame } from './readout-frame';
import { useStage } from './stage-context';

/** Output time of what leads, and what each of two that are compared shows there. */
export function ComparedReadout() {
  const program = useAppSelector(stageProgram);
  const unit = useAppSelector((state) => state.session.unit);
  const frames = programFrames(program);
  const playhead = useAppSelector((state) => Math.min(state.session.playhead, frames - 1));
  const { seek } = useStage();
  const { compared, rate } = program;
  const enterTime = useStable((text: string): string | undefined => {
    const parsed = parseMoment(text, rate, unit);
    if (!parsed.ok) return parsed.reason;
    if (parsed.value < 0 || parsed.value >= frames) return `is past the end, which is at ${frames} frames`;
    seek(Math.floor(parsed.value));
    return undefined;
  });
  if (!compared) return null;
  const times = comparedTimes(compared, playhead);
  return (
    <ReadoutFrame>
      <TapNumber long label="Output" text={formatMoment(playhead, rate, unit)} onEnter={enterTime} />
      {compareSides.map((side) => {
        const time = times[side];
        const seen = time === undefined ? undefined : motionAt(compared[side], time);
        return (
          <View
            key={side}
            className="min-h-[44px] flex-1 items-center justify-center"
            aria-label={`Frame of ${side.toUpperCase()}`}
          >
            <Text className="font-mono text-[15px] text-bone">
              {`${side.toUpperCase()} ${seen ? formatSourceFrame(seen.frame, unit).padStart(4, '0') : '–'}`}
            </Text>
            <Text className="font-mono text-[12px] text-quiet">
              {seen ? `${formatFactor(seen.speed)} ${speedGlyph(seen.speed)}` : 'nothing'}
            </Text>
          </View>
        );
      })}
    </ReadoutFrame>
  );
}
