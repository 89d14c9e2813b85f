import type { Cadence } from '@hastig/core';
import { lazy, Suspense, useState } from 'react';
import { Text, View } from 'react-native';
import { colour, type ColourName } from '../../../ui/palette';

type Count = 'once' | 'repeated' | 'skipped' | 'between';

const counts: readonly { of: Count; words: string; tone: ColourName }[] = [
  { of: 'once', words: 'shown once', tone: 'bone' },
  { of: 'repeated', words: 'repeated', tone: 'slow' },
  { of: 'skipped', words: 'skipped', tone: 'fast' },
  { of: 'between', words: 'interpolated', tone: 'back' },
];

const CHART_HEIGHT = 110;

/** Parts drawn at most; more would be thinner than can be read. The table of figures beneath has them all. */
const MOST_BARS = 24;

/** A quarter of all code that is loaded is the drawing of charts, and few starts need one. */
const BarChart = lazy(async () => {
  try {
    return { default: (await import('react-native-gifted-charts')).BarChart };
  } catch {
    // No connection just now. Its figures stand in the table beneath.
    return { default: () => <View /> };
  }
});

/** How each part's frames are come by: a bar a part, and the figures. */
export function CadenceChart({ all }: { all: readonly Cadence[] }) {
  const [width, setWidth] = useState(300);
  const room = Math.max(160, width - 60);
  const shown = all.slice(0, MOST_BARS);
  // Four thin bars a part, and a gap to the next.
  const gap = Math.max(3, Math.min(16, (room / shown.length) * 0.25));
  const barWidth = Math.max(1.5, Math.min(14, (room / shown.length - gap) / counts.length - 1));
  const bars = shown.flatMap((cadence, part) =>
    counts.map(({ of, tone }, index) => ({
      value: cadence[of],
      frontColor: colour(tone),
      spacing: index === counts.length - 1 ? gap : 1,
      ...(index === 0 && { label: String(part + 1) }),
    })),
  );
  return (
    <View className="gap-2" onLayout={(event) => setWidth(event.nativeEvent.layout.width)}>
      <Text className="font-sans text-[13px] text-quiet">Frames by part</Text>
      <View className="flex-row flex-wrap gap-x-4 gap-y-1">
        {counts.map(({ of, words, tone }) => (
          <View key={of} className="flex-row items-center gap-1">
            <View className="h-3 w-3 rounded-sm" style={{ backgroundColor: colour(tone) }} />
            <Text className="font-sans text-[12px] text-bone">{words}</Text>
          </View>
        ))}
      </View>
      <View aria-hidden style={{ minHeight: CHART_HEIGHT }}>
        <Suspense fallback={null}>
          <BarChart
            data={bars}
            width={room}
            height={CHART_HEIGHT}
            barWidth={barWidth}
            initialSpacing={6}
            noOfSections={3}
            yAxisTextStyle={{ color: colour('quiet'), fontSize: 11 }}
            xAxisLabelTextStyle={{ color: colour('quiet'), fontSize: 11 }}
            yAxisColor={colour('line')}
            xAxisColor={colour('line')}
            rulesColor={colour('line')}
            disableScroll
            disablePress
          />
        </Suspense>
      </View>
      <View role="table" aria-label="Cadence of each part">
        <View role="row" className="flex-row border-b border-line">
          {['part', 'frames', 'once', 'repeated', 'skipped', 'interp.'].map((head) => (
            <Text key={head} role="columnheader" className="flex-1 text-right font-sans text-[12px] text-quiet">
              {head}
            </Text>
          ))}
        </View>
        {all.map((cadence, index) => (
          <View key={index} role="row" className="flex-row">
            {[index + 1, cadence.frames, cadence.once, cadence.repeated, cadence.skipped, cadence.between].map(
              (value, column) => (
                <Text key={column} role="cell" className="flex-1 text-right font-mono text-[13px] text-bone">
                  {value}
                </Text>
              ),
            )}
          </View>
        ))}
      </View>
    </View>
  );
}
