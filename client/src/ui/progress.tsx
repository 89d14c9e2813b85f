import { View } from 'react-native';

/** How far something is, 0…1. */
export function Progress({ label, value }: { label: string; value: number }) {
  const percent = Math.round(Math.min(1, Math.max(0, value)) * 100);
  return (
    <View
      role="progressbar"
      aria-label={label}
      aria-valuenow={percent}
      aria-valuemin={0}
      aria-valuemax={100}
      className="h-1.5 overflow-hidden rounded-full bg-line"
    >
      <View className="h-full rounded-full bg-bone" style={{ width: `${percent}%` }} />
    </View>
  );
}
