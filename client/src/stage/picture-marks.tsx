import type { StageLook } from '@hastig/engine';
import { View, Text } from 'react-native';
import { useAppSelector } from '../store/hooks';

const looks: Record<Exclude<StageLook['kind'], 'made' | 'wipe'>, string> = {
  before: 'Before',
  difference: 'Difference ×4',
  movement: 'Movement to the next frame',
};

/** What is to be known of the picture, in a word in its corner: how it is looked at, or that it is not as it will be rendered. */
export function PictureMarks() {
  const { kind } = useAppSelector((state) => state.stage.look);
  const playing = useAppSelector((state) => state.session.playing);
  const draft = useAppSelector((state) => state.stage.draft);
  const look = playing || kind === 'made' || kind === 'wipe' ? undefined : looks[kind];
  const words = playing && draft ? 'Draft' : look;
  if (!words) return null;
  return (
    <View
      role="status"
      className="absolute right-2 top-2 rounded-md bg-[#000000aa] px-1.5"
      style={{ pointerEvents: 'none' }}
    >
      <Text className="font-sans text-[12px] text-[#ede8df]">{words}</Text>
    </View>
  );
}
