import { DOUBTFUL, trimDecimals, type TrackedPoint } from '@hastig/core';
import { memo } from 'react';
import { Text, View } from 'react-native';
import { GRAPH, LineGraph } from './line-graph';

interface TrackGraphProps {
  points: readonly TrackedPoint[];
  /** The frame in which it stays where it is; of no track that is held. */
  frame: number;
  /** Whether it is held still, so that there is an after. */
  held?: boolean;
}

/** Columns of the graph at most: a long source has more frames than a screen has pixels. */
const COLUMNS = GRAPH.width;

/** How far something strays from where it is held, before and after, in pixels; where it is in doubt, shaded. */
export const TrackGraph = memo(function TrackGraph({ points, frame, held = true }: TrackGraphProps) {
  const start = points[Math.min(frame, points.length - 1)];
  if (!start) return null;
  const most = points.reduce((far, { x, y }) => Math.max(far, Math.abs(x - start.x), Math.abs(y - start.y)), 0.1);
  const columns = Math.min(COLUMNS, points.length);
  const shown = Array.from({ length: columns }, (_, column) => {
    const [from, to] = [column, column + 1].map((n) => Math.floor((n * points.length) / columns));
    const frames = points.slice(from, to);
    const inDoubt = frames.some(({ confidence }) => confidence < DOUBTFUL);
    return { x: frames[0]!.x - start.x, y: frames[0]!.y - start.y, inDoubt };
  });
  const doubtful = points.filter(({ confidence }) => confidence < DOUBTFUL).length;
  const found = doubtful === 0 ? 'Found in every frame.' : `In doubt in ${doubtful} of ${points.length} frames.`;
  const strays = held ? `Strays up to ${trimDecimals(most, 1)} px before, 0 once it is held.` : `Moves up to ${trimDecimals(most, 1)} px.`; // prettier-ignore
  const words = `${strays} ${found}`;
  return (
    <View className="gap-1">
      <LineGraph
        words={words}
        most={most}
        zero={held}
        shaded={shown.flatMap(({ inDoubt }, n) => (inDoubt ? [[n / columns, (n + 1) / columns] as const] : []))}
        lines={[
          { values: shown.map(({ x }) => x), colour: 'rgb(var(--bone))' },
          { values: shown.map(({ y }) => y), colour: 'rgb(var(--quiet))', dashed: true },
        ]}
      />
      <Text className="font-sans text-[13px] text-quiet">{`${words} Solid across, dashed down.`}</Text>
    </View>
  );
});
