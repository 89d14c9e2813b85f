import { memo } from 'react';

/** Units of a graph's drawing. */
export const GRAPH = { width: 300, height: 72 } as const;

/** A line of values, evenly spread: its colour, and whether it is dashed. */
interface GraphLine {
  values: readonly number[];
  colour: string;
  dashed?: boolean;
}

interface LineGraphProps {
  /** What it shows, for those who do not see it. */
  words: string;
  lines: readonly GraphLine[];
  /** The value at the upper edge; the lower edge is as far below 0. */
  most: number;
  /** Shares of the width that are shaded, from and to. */
  shaded?: readonly (readonly [from: number, to: number])[];
  /** Whether nothing is marked by a line. */
  zero?: boolean;
}

/** Lines about 0, as wide as there is room. */
export const LineGraph = memo(function LineGraph({ words, lines, most, shaded = [], zero = false }: LineGraphProps) {
  const { width, height } = GRAPH;
  const pointsOf = (values: readonly number[]): string =>
    values
      .map((value, n) => {
        const x = ((n + 0.5) / values.length) * width;
        return `${x.toFixed(1)},${((1 - value / most) * (height / 2 - 2) + 2).toFixed(1)}`;
      })
      .join(' ');
  return (
    <svg
      role="img"
      aria-label={words}
      viewBox={`0 0 ${width} ${height}`}
      preserveAspectRatio="none"
      style={{ width: '100%', height, display: 'block' }}
    >
      {shaded.map(([from, to]) => (
        <rect
          key={from}
          x={from * width}
          width={(to - from) * width + 0.5}
          y={0}
          height={height}
          fill="rgb(var(--wrong) / 0.3)"
        />
      ))}
      {zero ? (
        <line x1={0} x2={width} y1={height / 2} y2={height / 2} stroke="rgb(var(--slow))" strokeWidth={2} />
      ) : null}
      {lines.map(({ values, colour, dashed }, n) => (
        <polyline
          key={n}
          points={pointsOf(values)}
          fill="none"
          stroke={colour}
          strokeWidth={1.5}
          vectorEffect="non-scaling-stroke"
          {...(dashed && { strokeDasharray: '4 3' })}
        />
      ))}
    </svg>
  );
});
