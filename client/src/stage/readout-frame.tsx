import { formatFactor, formatPercent, type TimeUnit } from '@hastig/core';
import Clock from 'lucide-react-native/icons/clock';
import { memo, type ReactNode } from 'react';
import { View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { unitCycled } from '../store/session-slice';
import { IconButton } from '../ui/button';
import { speedGlyph } from '../ui/palette';
import { DenseContext, TapNumber } from '../ui/tap-number';
import { isSmall, useStageForm } from './stage-form';

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

/** The numbers of what is on the stage in a row, and the way they are counted. */
export function ReadoutFrame({ children }: { children: ReactNode }) {
  const form = useStageForm();
  const small = isSmall(form);
  return (
    <DenseContext value={small}>
      <View
        role="group"
        aria-label="Readout"
        className={`flex-row items-center ${small ? 'flex-wrap justify-center px-0.5' : 'px-1'}`}
      >
        {children}
        {small ? null : <UnitButton />}
      </View>
    </DenseContext>
  );
}

// Apart from the numbers, which change all the time.
const UnitButton = memo(function UnitButton() {
  const dispatch = useAppDispatch();
  const unit = useAppSelector((state) => state.session.unit);
  return (
    <IconButton
      label={`Times in ${unitNames[unit]}. Change unit`}
      icon={Clock}
      onPress={() => dispatch(unitCycled())}
    />
  );
});

/** A speed with its colour and glyph, typed where it stands. */
export function SpeedNumber({ speed, onEnter }: { speed: number; onEnter(text: string): string | undefined }) {
  return (
    <TapNumber
      label="Speed"
      text={`${formatFactor(speed)} ${speedGlyph(speed)}`}
      entry={formatPercent(speed)}
      onEnter={onEnter}
      tone={toneOf(speed)}
    />
  );
}
