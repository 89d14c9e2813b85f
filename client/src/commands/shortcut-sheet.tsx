import { usePathname, useRouter, type Href } from 'expo-router';
import Handbook from 'lucide-react-native/icons/circle-question-mark';
import { Text, View } from 'react-native';
import { handbookAddress } from '../places/handbook/pages';
import { Button } from '../ui/button';
import { SheetFrame } from '../ui/sheet-frame';
import { shortcutList, type Shown } from './command';
import { historyCommands, movingCommands } from './general';
import { keyWords } from './key-words';

/** The shortcuts that hold in a place. */
export function ShortcutSheet({ commands, onClose }: { commands: readonly Shown[]; onClose(): void }) {
  const router = useRouter();
  const path = usePathname();
  return (
    <SheetFrame title="Shortcuts" onClose={onClose} toRead>
      <View className="flex-row">
        <Button label="Handbook" icon={Handbook} onPress={() => router.push(handbookAddress(path) as Href)} />
      </View>
      {shortcutList([...movingCommands, ...historyCommands, ...commands]).map(({ name, shortcuts }) => (
        <View key={name} className="gap-1">
          <Text role="heading" aria-level={3} className="font-medium text-[14px] text-bone">
            {name}
          </Text>
          <View role="list" aria-label={name} className="gap-1">
            {shortcuts.map(({ keys, words }) => (
              <View key={keys} role="listitem" className="flex-row items-center gap-3">
                <Text className="w-[112px] rounded border border-line bg-ink px-2 py-0.5 text-center font-mono text-[12px] text-bone">
                  {keyWords(keys)}
                </Text>
                <Text className="flex-1 font-sans text-[13px] text-quiet">{words}</Text>
              </View>
            ))}
          </View>
        </View>
      ))}
    </SheetFrame>
  );
}
