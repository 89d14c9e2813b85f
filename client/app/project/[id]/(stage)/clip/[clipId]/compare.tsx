import { useLocalSearchParams } from 'expo-router';
import { ComparePlace } from '../../../../../../src/places/compare/compare-place';

export default function ClipCompare() {
  const { clipId } = useLocalSearchParams<{ clipId: string }>();
  return <ComparePlace key={clipId} clipId={clipId} />;
}
