import { useLocalSearchParams } from 'expo-router';
import { OutputPlace } from '../../../../../src/places/output/output-place';

export default function Output() {
  const { clipId } = useLocalSearchParams<{ clipId: string }>();
  return <OutputPlace clipId={clipId} />;
}
