import { useRouter, type Href } from 'expo-router';
import Signpost from 'lucide-react-native/icons/signpost';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { api } from '../store/api';
import { useAppDispatch } from '../store/hooks';
import { pathBegun, pathShown } from '../store/path-slice';
import { Button } from '../ui/button';
import { pathSteps, pathStart } from './steps';
import { useKeptPath } from './use-kept-path';

/**
 * The path through the demo: offered once, on the first visit; after that only where one asks for it.
 *
 * @param asked shown whatever was answered
 */
export function PathOffer({ asked = false, onFault }: { asked?: boolean; onFault(words: string): void }) {
  const router = useRouter();
  const dispatch = useAppDispatch();
  const path = useKeptPath();
  const [busy, setBusy] = useState(false);
  const left = pathSteps.filter((step) => !path.done.includes(step));
  const begin = async (): Promise<void> => {
    setBusy(true);
    try {
      const { id, document } = await api.createPathDemo();
      dispatch(pathBegun({ project: id, start: pathStart(document) }));
      router.push(`/project/${id}/timeline` as Href);
    } catch (error) {
      onFault((error as Error).message);
    }
    setBusy(false);
  };
  const goOn = (): void => {
    dispatch(pathShown(true));
    router.push(`/project/${path.project}/timeline` as Href);
  };
  const begun = path.project !== null && left.length > 0;
  if (!asked && path.answered && !begun) return null;
  if (!asked && path.answered)
    return (
      <View className="flex-row">
        <Button label={`Go on with the path: ${left.length} left`} icon={Signpost} kind="quiet" onPress={goOn} />
      </View>
    );
  return (
    <View role="group" aria-label="Path through the demo" className="gap-2 rounded-xl border border-line bg-raised p-4">
      <Text className="font-medium text-[16px] text-bone">A path through the demo</Text>
      <Text className="font-sans text-[14px] text-quiet">
        Slow a part, land it on a beat, keep its pitch, compare, render. Each step is done by hand on a real project;
        leave it and take it up when you like.
      </Text>
      <View className="flex-row flex-wrap gap-2">
        <Button label={begun ? 'Start again' : 'Start'} disabled={busy} onPress={() => void begin()} />
        {begun ? <Button label={`Go on: ${left.length} left`} onPress={goOn} /> : null}
        {asked ? null : <Button label="Not now" kind="quiet" onPress={() => dispatch(pathShown(false))} />}
      </View>
    </View>
  );
}
