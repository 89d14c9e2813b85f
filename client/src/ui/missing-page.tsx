import { Text, View } from 'react-native';
import { Button } from './button';
import { LostPage } from './lost-page';

/** What is shown in a browser that lacks what Hastig needs. */
export function MissingPage({ missing }: { missing: readonly string[] }) {
  return (
    <LostPage title="This browser can’t run Hastig">
      <View className="w-full max-w-[520px] gap-3">
        <Text className="font-sans text-[15px] text-bone">It lacks:</Text>
        <View role="list" className="gap-1">
          {missing.map((part) => (
            <Text key={part} role="listitem" className="font-sans text-[15px] text-bone">
              {`• ${part}`}
            </Text>
          ))}
        </View>
        <Text className="font-sans text-[15px] text-quiet">
          Use a current browser built on Chromium, on a computer or an Android device, or a current Safari or Firefox on
          a computer. Builds without H.264 can’t be used.
        </Text>
        <View className="flex-row">
          <Button label="Try again" onPress={() => globalThis.location.reload()} />
        </View>
      </View>
    </LostPage>
  );
}
