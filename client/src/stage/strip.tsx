import type { RetimeMap } from '@hastig/contract';
import { compile, formatFactor, speedAt } from '@hastig/core';
import { View } from 'react-native';
import { speedColour } from '../ui/palette';

const PARTS = 48;

/** The slowest and the fastest speed of a clip, in words of its own: `×0.40 to ×1.00`. */
export function speedRangeText(map: RetimeMap): string {
  const { length } = compile(map);
  const speeds = Array.from({ length: PARTS }, (_, part) => speedAt(map, ((part + 0.5) / PARTS) * length));
  const [low, high] = [Math.min(...speeds), Math.max(...speeds)].map(formatFactor);
  return low === high ? low! : `${low} to ${high}`;
}

/** A clip's speeds at a glance: one colour after the other along its length. The numbers stand beside it. */
export function SpeedStrip({ map }: { map: RetimeMap }) {
  const { length } = compile(map);
  return (
    <View className="h-2 flex-row overflow-hidden rounded-full" aria-hidden>
      {Array.from({ length: PARTS }, (_, part) => {
        const speed = speedAt(map, ((part + 0.5) / PARTS) * length);
        return <View key={part} className="flex-1" style={{ backgroundColor: speedColour(speed) }} />;
      })}
    </View>
  );
}
