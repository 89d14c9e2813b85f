import { compareSides, STEP_EDGE, type CompareSide } from '@hastig/core';
import { lazy, Suspense, useState } from 'react';
import { Text, View } from 'react-native';
import { colour, type ColourName } from '../../ui/palette';
import type { Measured } from './use-measured';

const CHART_HEIGHT = 110;
/** Points drawn at most: of more, the greatest of those that come to lie in one place. */
const MOST_POINTS = 160;

const tones: Record<CompareSide, ColourName> = { a: 'slow', b: 'fast' };

/** A quarter of all code that is loaded is the drawing of charts, and few starts need one. */
const LineChart = lazy(async () => {
  try {
    return { default: (await import('react-native-gifted-charts')).LineChart };
  } catch {
    // No connection just now. The figure stands in the table above.
    return { default: () => <View /> };
  }
});

/** Per mille of the picture's width that each step is off, the greatest of those that come to lie in one place. */
function pointsOf({ evenness: { off } }: Measured): { value: number }[] {
  const count = Math.min(MOST_POINTS, off.length);
  return Array.from({ length: count }, (_, n) => {
    const [from, to] = [Math.floor((n * off.length) / count), Math.floor(((n + 1) * off.length) / count)];
    let most = 0;
    for (let index = from; index < to; index++) if (off[index]! > most) most = off[index]!;
    return { value: Math.round((most / STEP_EDGE) * 10_000) / 10 };
  });
}

/** How far each step of what moves is from the smooth one, over time. */
export function EvennessChart({ measured }: { measured: Partial<Record<CompareSide, Measured>> }) {
  const [width, setWidth] = useState(300);
  const lines = compareSides.flatMap((side) => (measured[side] ? [{ side, points: pointsOf(measured[side]) }] : []));
  const [first, second] = lines;
  if (!first) return null;
  const room = Math.max(160, width - 60);
  const longest = Math.max(...lines.map(({ points }) => points.length));
  return (
    <View className="gap-2" onLayout={(event) => setWidth(event.nativeEvent.layout.width)}>
      <Text className="font-sans text-[13px] text-quiet">
        Steps off the smooth one, in thousandths of the width, over time
      </Text>
      <View className="flex-row gap-4">
        {lines.map(({ side }) => (
          <View key={side} className="flex-row items-center gap-1">
            <View className="h-3 w-3 rounded-sm" style={{ backgroundColor: colour(tones[side]) }} />
            <Text className="font-sans text-[12px] text-bone">{side.toUpperCase()}</Text>
          </View>
        ))}
      </View>
      <View aria-hidden style={{ minHeight: CHART_HEIGHT }}>
        <Suspense fallback={null}>
          <LineChart
            data={first.points}
            {...(second && { data2: second.points, color2: colour(tones[second.side]) })}
            color1={colour(tones[first.side])}
            width={room}
            height={CHART_HEIGHT}
            spacing={room / Math.max(2, longest)}
            initialSpacing={0}
            thickness={1.5}
            hideDataPoints
            noOfSections={3}
            yAxisTextStyle={{ color: colour('quiet'), fontSize: 11 }}
            yAxisColor={colour('line')}
            xAxisColor={colour('line')}
            rulesColor={colour('line')}
            disableScroll
          />
        </Suspense>
      </View>
    </View>
  );
}
