import { DOUBTFUL, trimDecimals, type TrackedPoint } from '@hastig/core';
import { memo } from 'react';
import { Text, View } from 'react-native';

const WIDTH = 300;
const HEIGHT = 72;

interface TrackGraphProps {
  points: readonly TrackedPoint[];
  /** The frame in which it stays where it is. */
  frame: number;
}

/** Columns of the graph at most: a long source has more frames than a screen has pixels. */
const COLUMNS = 300;

/** How far something strays from where it is held, before and after, in pixels; where it is in doubt, shaded. */
export const TrackGraph = memo(function TrackGraph({ points, frame }: TrackGraphProps) {
  const held = points[Math.min(frame, points.length - 1)];
  if (!held) return null;
  const most = points.reduce((far, { x, y }) => Math.max(far, Math.abs(x - held.x), Math.abs(y - held.y)), 0.1);
  const columns = Math.min(COLUMNS, points.length);
  const wide = WIDTH / columns;
  const shown = Array.from({ length: columns }, (_, column) => {
    const [from, to] = [column, column + 1].map((n) => Math.floor((n * points.length) / columns));
    const frames = points.slice(from, to);
    const inDoubt = frames.some(({ confidence }) => confidence < DOUBTFUL);
    return { x: frames[0]!.x - held.x, y: frames[0]!.y - held.y, inDoubt };
  });
  const line = (name: 'x' | 'y'): string =>
    shown
      .map((one, n) => `${((n + 0.5) * wide).toFixed(1)},${((1 - one[name] / most) * (HEIGHT / 2 - 2) + 2).toFixed(1)}`)
      .join(' ');
  const doubtful = points.filter(({ confidence }) => confidence < DOUBTFUL).length;
  const found = doubtful === 0 ? 'Found in every frame.' : `In doubt in ${doubtful} of ${points.length} frames.`;
  const words = `Strays up to ${trimDecimals(most, 1)} px before, 0 once it is held. ${found}`;
  return (
    <View className="gap-1">
      <svg
        role="img"
        aria-label={words}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        preserveAspectRatio="none"
        style={{ width: '100%', height: HEIGHT, display: 'block' }}
      >
        {shown.map(({ inDoubt }, n) =>
          inDoubt ? (
            <rect key={n} x={n * wide} width={wide + 0.5} y={0} height={HEIGHT} fill="rgb(var(--wrong) / 0.3)" />
          ) : null,
        )}
        <line x1={0} x2={WIDTH} y1={HEIGHT / 2} y2={HEIGHT / 2} stroke="rgb(var(--slow))" strokeWidth={2} />
        <polyline
          points={line('x')}
          fill="none"
          stroke="rgb(var(--bone))"
          strokeWidth={1.5}
          vectorEffect="non-scaling-stroke"
        />
        <polyline
          points={line('y')}
          fill="none"
          stroke="rgb(var(--quiet))"
          strokeWidth={1.5}
          strokeDasharray="4 3"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <Text className="font-sans text-[13px] text-quiet">{`${words} Solid across, dashed down.`}</Text>
    </View>
  );
});
