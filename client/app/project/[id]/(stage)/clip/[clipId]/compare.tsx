import { useLocalSearchParams } from 'expo-router';
import { ComparePlace } from '../../../../../../src/places/compare/compare-place';
import { Later } from '../../../../../../src/ui/later';

export default function ClipCompare() {
  const { clipId } = useLocalSearchParams<{ clipId: string }>();
  return (
    <Later key={clipId}>
      <ComparePlace clipId={clipId} />
    </Later>
  );
}
