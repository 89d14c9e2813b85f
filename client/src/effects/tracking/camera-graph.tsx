import { trimDecimals, type CameraWay } from '@hastig/core';
import { memo } from 'react';
import { Text, View } from 'react-native';
import { GRAPH, LineGraph } from './line-graph';

interface CameraGraphProps {
  way: Pick<CameraWay, 'before' | 'after'>;
}

type Place = CameraWay['before'][number];

/** How much a way is shaken: how far each place lies off the way between those beside it, as a root mean square, in pixels. */
function shake(places: readonly Place[]): number {
  let sum = 0;
  for (let n = 1; n < places.length - 1; n++) {
    const [a, b, c] = [places[n - 1]!, places[n]!, places[n + 1]!];
    sum += (b.x - (a.x + c.x) / 2) ** 2 + (b.y - (a.y + c.y) / 2) ** 2;
  }
  return Math.sqrt(sum / Math.max(1, places.length - 2));
}

/** Where a camera goes, before and after, across and down, each graph in pixels. */
export const CameraGraph = memo(function CameraGraph({ way: { before, after } }: CameraGraphProps) {
  const columns = Math.min(GRAPH.width, before.length);
  const taken = (places: readonly Place[]): Place[] =>
    Array.from({ length: columns }, (_, n) => places[Math.floor((n * places.length) / columns)]!);
  const [was, is] = [taken(before), taken(after)];
  const words = `Shakes by ${trimDecimals(shake(before), 2)} px a frame before, ${trimDecimals(shake(after), 2)} px after.`;
  return (
    <View className="gap-1">
      {(['x', 'y'] as const).map((name) => {
        const all = was.map((place) => place[name]);
        const [least, highest] = [Math.min(...all), Math.max(...all)];
        const middle = (least + highest) / 2;
        const line = (places: readonly Place[]): number[] => places.map((place) => place[name] - middle);
        return (
          <LineGraph
            key={name}
            words={`The camera’s way ${name === 'x' ? 'across' : 'down'}, ${trimDecimals(highest - least, 1)} px. ${words}`}
            most={Math.max(0.1, (highest - least) / 2)}
            lines={[
              { values: line(was), colour: 'rgb(var(--quiet))' },
              { values: line(is), colour: 'rgb(var(--slow))' },
            ]}
          />
        );
      })}
      <Text className="font-sans text-[13px] text-quiet">{`${words} Across above, down below; grey before.`}</Text>
    </View>
  );
});
