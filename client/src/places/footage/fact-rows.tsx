import type { Source } from '@hastig/contract';
import { Text, View } from 'react-native';
import { factRows } from './facts';

/** A source's facts, one beneath the other. */
export function FactRows({ source }: { source: Source }) {
  return (
    <View className="gap-1">
      {factRows(source).map(([name, value]) => (
        <View key={name} className="flex-row gap-3">
          <Text className="w-[104px] font-sans text-[13px] text-quiet">{name}</Text>
          <Text className="min-w-0 flex-1 font-mono text-[13px] tabular-nums text-bone">{value}</Text>
        </View>
      ))}
    </View>
  );
}
