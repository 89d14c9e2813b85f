import type { ReactNode } from 'react';
import { View } from 'react-native';
import { useArrangement } from '../ui/use-wide';

/** A place with its bar of commands: beneath it, or at its side on a turned phone. The elements stay the same ones. */
export function PlaceFrame({ bar, children }: { bar: ReactNode; children: ReactNode }) {
  const upright = useArrangement() === 'turned';
  return (
    <View className={`min-h-0 flex-1 ${upright ? 'flex-row' : 'flex-col'}`}>
      <View className="min-h-0 min-w-0 flex-1">{children}</View>
      {bar}
    </View>
  );
}
