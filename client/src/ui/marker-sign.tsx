import { markerTones, type MarkerTone } from '@hastig/contract';
import { memo } from 'react';
import Svg, { Path } from 'react-native-svg';

/** Each tone has a shape of its own, so that colour is never alone. */
const signs: Record<MarkerTone, { fill: string; path: string }> = {
  oak: { fill: '#D9A441', path: 'M2 2h12v8l-6 5-6-5z' },
  moss: { fill: '#7FAF5A', path: 'M8 1l7 7-7 7-7-7z' },
  slate: { fill: '#7B9CC4', path: 'M2 3h12v10H2z' },
  clay: { fill: '#D9795B', path: 'M8 1l7 13H1z' },
  plum: { fill: '#B07BC4', path: 'M8 1a7 7 0 1 1 0 14A7 7 0 0 1 8 1z' },
};

/** The sign of a marker: a shape and a colour for each tone. */
export const MarkerSign = memo(function MarkerSign({ tone, size = 16 }: { tone: MarkerTone; size?: number }) {
  const { fill, path } = signs[tone];
  return (
    <Svg width={size} height={size} viewBox="0 0 16 16" aria-hidden style={{ pointerEvents: 'none' }}>
      <Path d={path} fill={fill} stroke="rgb(20 22 27)" strokeWidth={1} />
    </Svg>
  );
});

/** The tone after another one, in turn. */
export const nextTone = (tone: MarkerTone): MarkerTone =>
  markerTones[(markerTones.indexOf(tone) + 1) % markerTones.length]!;
