import type { ErrorBoundaryProps } from 'expo-router';
import { Text, View } from 'react-native';
import { Button } from './button';

/** What is shown where the program itself has failed: what happened, and the way back. What was saved is on the server. */
export function BrokenPage({ error, retry }: ErrorBoundaryProps) {
  return (
    <View className="flex-1 items-center justify-center gap-4 bg-ink p-6">
      <Text role="alert" className="max-w-[520px] text-center font-sans text-[15px] text-bone">
        {`Something went wrong: ${error.message}. Your project is as it was last saved.`}
      </Text>
      <View className="flex-row gap-3">
        <Button label="Try again" kind="primary" onPress={() => void retry()} />
        <Button label="All projects" onPress={() => globalThis.location.assign('/')} />
      </View>
    </View>
  );
}
