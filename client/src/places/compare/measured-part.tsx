import { compareSides, formatPercent, type CompareSide, type Program } from '@hastig/core';
import type { StoredRender } from '@hastig/engine';
import { Text, View } from 'react-native';
import { Button } from '../../ui/button';
import { formatBytes } from '../../ui/format';
import { Progress } from '../../ui/progress';
import { useAppSelector, useSession } from '../../store/hooks';
import { aboutSeconds } from '../output/use-estimate';
import { EvennessChart } from './evenness-chart';
import { NumbersTable } from './numbers-table';
import { useMeasured, type Measured } from './use-measured';

interface MeasuredPartProps {
  names: Record<CompareSide, string>;
  programs: Record<CompareSide, Program | undefined>;
  /** Rendered films: of them it is known what they took. */
  files: readonly StoredRender[];
}

const unevenWords = ({ evenness: { uneven } }: Measured): string =>
  uneven === undefined ? 'nothing moves' : formatPercent(uneven);

/** The numbers of both sides: counted at once, and on wish measured in their pictures. */
export function MeasuredPart({ names, programs, files }: MeasuredPartProps) {
  const { measured, share, fault, begin, cancel } = useMeasured(programs);
  const on = useAppSelector((state) => state.compare.on);
  const { marks } = useSession('marks');
  const fileOf = (side: CompareSide): StoredRender | undefined =>
    on?.sides[side].is === 'file' ? files.find(({ name }) => name === names[side]) : undefined;
  const line = (
    label: string,
    of: (found: Measured) => string,
    ofFile?: (file: StoredRender) => string | undefined,
  ) => {
    const words = (side: CompareSide): string => {
      const [file, found] = [fileOf(side), measured[side]];
      return (file && ofFile?.(file)) ?? (found ? of(found) : '–');
    };
    return { label, a: words('a'), b: words('b') };
  };
  const more = [
    line('Unevenness', unevenWords),
    line(
      'Time to render',
      ({ seconds }) => (seconds === undefined ? '–' : aboutSeconds(seconds)),
      ({ details }) => details && `took ${details.took.toFixed(1)} s`,
    ),
    line('Size as MP4', ({ bytes }) => `about ${formatBytes(bytes)}`, ({ bytes }) => formatBytes(bytes)), // prettier-ignore
  ];
  const all = compareSides.every((side) => !programs[side] || measured[side]);
  return (
    <View className="gap-3">
      <NumbersTable {...{ names, programs, more }} />
      {fault === undefined ? null : (
        <Text role="alert" className="font-sans text-[14px] text-wrong">
          {fault}
        </Text>
      )}
      {share === undefined ? (
        <View className="flex-row flex-wrap items-center gap-2">
          <Button label="Measure motion and time" disabled={all} onPress={begin} />
          {all ? null : (
            <Text className="min-w-0 flex-1 font-sans text-[13px] text-quiet">
              {`Makes every picture${marks.from !== null || marks.to !== null ? ' between in and out' : ''} once, small, to see how evenly what moves goes on.`}
            </Text>
          )}
        </View>
      ) : (
        <View className="gap-2">
          <Progress label="Measuring" value={share} />
          <View className="flex-row">
            <Button label="Cancel" onPress={cancel} />
          </View>
        </View>
      )}
      <EvennessChart measured={measured} />
    </View>
  );
}
