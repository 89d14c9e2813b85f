import type { ReactNode } from 'react';
import { Text, View } from 'react-native';

/** What is shown where there is nothing to show: why, and the ways back. */
export function LostPage({ title, text, children }: { title: string; text?: string | undefined; children: ReactNode }) {
  return (
    <View role="main" className="flex-1 items-center justify-center gap-4 bg-ink p-6">
      <Text role="heading" aria-level={1} className="text-center font-medium text-[18px] text-bone">
        {title}
      </Text>
      {text ? <Text className="max-w-[520px] text-center font-sans text-[15px] text-quiet">{text}</Text> : null}
      <View className="flex-row flex-wrap justify-center gap-3">{children}</View>
    </View>
  );
}
