import type { Source } from '@hastig/contract';
import { Text, View } from 'react-native';
import { useWaveformState } from './use-waveforms';

/** Over a waveform: how far it is, or why there is none. */
export function WaveState({ source }: { source: Source }) {
  const { making, fault } = useWaveformState(source);
  if (making === null && !fault) return null;
  return (
    <View className="absolute inset-x-0 bottom-0 items-center px-2 pb-1" style={{ pointerEvents: 'none' }}>
      <Text role="status" className={`font-sans text-[12px] ${fault ? 'text-wrong' : 'text-quiet'}`}>
        {fault ?? `Waveform: ${Math.round((making ?? 0) * 100)}%`}
      </Text>
    </View>
  );
}
