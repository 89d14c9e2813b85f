import { Text } from 'react-native';
import { SheetFrame } from './sheet-frame';

/** A sheet that has nothing to work on: what is missing, and where it comes from. */
export function EmptySheet({ title, words, onClose }: { title: string; words: string; onClose(): void }) {
  return (
    <SheetFrame title={title} onClose={onClose}>
      <Text role="status" className="font-sans text-[14px] text-quiet">
        {words}
      </Text>
    </SheetFrame>
  );
}
