import type { ReactNode } from 'react';
import { ScrollView, View } from 'react-native';

/** A page outside the stage: a column that scrolls, not wider than what reads well. */
export function Page({ children }: { children: ReactNode }) {
  return (
    <View role="main" className="min-h-0 flex-1">
      <ScrollView className="flex-1 bg-ink" contentContainerClassName="items-center px-4 py-5">
        <View className="w-full max-w-[960px] gap-5">{children}</View>
      </ScrollView>
    </View>
  );
}
