import { useLocalSearchParams } from 'expo-router';
import { PacePlace } from '../../../../../../src/places/pace/pace-place';

export default function Pace() {
  const { clipId } = useLocalSearchParams<{ clipId: string }>();
  return <PacePlace clipId={clipId} />;
}
