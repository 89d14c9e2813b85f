import type { ReactNode } from 'react';
import { ScrollView, View } from 'react-native';

/** A place's tools in a line, which scrolls where it is longer than there is room. */
export function ToolBar({ children }: { children: ReactNode }) {
  return (
    <View role="toolbar" aria-label="Tools" className="h-11 flex-none border-b border-line bg-raised">
      <ScrollView horizontal showsHorizontalScrollIndicator={false} contentContainerClassName="flex-grow items-center">
        {children}
      </ScrollView>
    </View>
  );
}
