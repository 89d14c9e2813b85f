import type { RetimeMap } from '@hastig/contract';
import { compile, speedAt } from '@hastig/core';
import { View } from 'react-native';
import { speedColour } from '../ui/palette';

const PARTS = 48;

/** A clip's speeds at a glance: one colour after the other along its length. */
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
