import { useLocalSearchParams } from 'expo-router';
import { SoundPlace } from '../../../../../../src/places/sound/sound-place';

export default function Sound() {
  const { clipId } = useLocalSearchParams<{ clipId: string }>();
  return <SoundPlace clipId={clipId} />;
}
