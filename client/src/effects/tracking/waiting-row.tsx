import { Text, View } from 'react-native';
import { Button } from '../../ui/button';
import { Progress } from '../../ui/progress';
import type { Waiting } from './use-tracking';

/** How far work in a worker is, and the way to call it off; or what went wrong. */
export function WaitingRow({ waiting, label, cancel }: { waiting: Waiting; label: string; cancel: string }) {
  if (waiting.progress !== null)
    return (
      <View className="gap-2">
        <Progress label={label} value={waiting.progress} />
        <View className="flex-row">
          <Button label={cancel} onPress={waiting.cancel} />
        </View>
      </View>
    );
  return waiting.fault === null ? null : (
    <Text role="alert" className="font-sans text-[13px] text-wrong">
      {waiting.fault}
    </Text>
  );
}
