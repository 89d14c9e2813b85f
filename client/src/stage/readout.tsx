import type { RetimeMap } from '@hastig/contract';
import {
  formatFactor,
  formatPercent,
  formatMoment,
  formatSourceFrame,
  heldFrame,
  parseMoment,
  parseSourceFrame,
  parseSpeed,
  showingsOf,
  speedAt,
  type TimeUnit,
} from '@hastig/core';
import Clock from 'lucide-react-native/icons/clock';
import { View } from 'react-native';
import { setSpeedHere } from '../store/clip-edits';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { unitCycled } from '../store/session-slice';
import { IconButton } from '../ui/button';
import { speedGlyph } from '../ui/palette';
import { TapNumber } from '../ui/tap-number';
import { useStage } from './stage-context';

const toneOf = (speed: number): string =>
  speed === 0
    ? 'text-frozen'
    : speed < 0
      ? 'text-back'
      : speed < 0.999
        ? 'text-slow'
        : speed > 1.001
          ? 'text-fast'
          : 'text-bone';

const unitNames: Record<TimeUnit, string> = {
  timecode: 'timecode',
  frames: 'frames from 0',
  'frames-from-1': 'frames from 1',
  seconds: 'seconds',
};

/** Output time, source frame and speed of what is on the stage; each typed where it stands. */
export function Readout({ clipId, map, frames }: { clipId: string; map: RetimeMap; frames: number }) {
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const unit = useAppSelector((state) => state.session.unit);
  const playhead = useAppSelector((state) => Math.min(state.session.playhead, frames - 1));
  const held = heldFrame(map, playhead);
  const speed = speedAt(map, playhead);

  const enterTime = (text: string): string | undefined => {
    const parsed = parseMoment(text, map.outputRate, unit);
    if (!parsed.ok) return parsed.reason;
    if (parsed.value < 0 || parsed.value >= frames) return `is outside the clip, which has ${frames} frames`;
    seek(Math.floor(parsed.value));
    return undefined;
  };

  const enterFrame = (text: string): string | undefined => {
    const parsed = parseSourceFrame(text, unit);
    if (!parsed.ok) return parsed.reason;
    const shown = showingsOf(map, Math.floor(parsed.value));
    // The next appearance from here, or the first one.
    const next = shown.find(({ to }) => to > playhead) ?? shown[0];
    if (!next) return `${text.trim()} is not shown in this clip`;
    seek(next.from);
    return undefined;
  };

  const enterSpeed = (text: string): string | undefined => {
    const parsed = parseSpeed(text);
    if (!parsed.ok) return parsed.reason;
    dispatch(setSpeedHere(clipId, playhead, parsed.value));
    return undefined;
  };

  return (
    <View role="group" aria-label="Readout" className="flex-row items-center px-1">
      <TapNumber label="Output" text={formatMoment(playhead, map.outputRate, unit)} onEnter={enterTime} />
      <TapNumber label="Source frame" text={formatSourceFrame(held, unit).padStart(4, '0')} onEnter={enterFrame} />
      <TapNumber
        label="Speed"
        text={`${formatFactor(speed)} ${speedGlyph(speed)}`}
        entry={formatPercent(speed)}
        onEnter={enterSpeed}
        tone={toneOf(speed)}
      />
      <IconButton
        label={`Times in ${unitNames[unit]}; change the unit`}
        icon={Clock}
        onPress={() => dispatch(unitCycled())}
      />
    </View>
  );
}
