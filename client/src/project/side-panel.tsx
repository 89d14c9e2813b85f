import type { ReactNode } from 'react';
import { ScrollView, Text } from 'react-native';
import { useWide } from '../ui/use-wide';
import { Beside } from './side';

interface SidePanelProps {
  title: string;
  /** Something else stands there. */
  hidden: boolean;
  children: ReactNode;
}

/** What a place knows of what is chosen, beside the picture on a wide screen; a phone has it in a sheet. */
export function SidePanel({ title, hidden, children }: SidePanelProps) {
  const wide = useWide();
  return (
    <Beside shown={wide && !hidden}>
      <ScrollView className="min-h-0 flex-1" contentContainerClassName="gap-3 p-4" role="region" aria-label={title}>
        <Text role="heading" aria-level={2} className="font-medium text-[17px] text-bone">
          {title}
        </Text>
        {children}
      </ScrollView>
    </Beside>
  );
}
