import { useLocalSearchParams } from 'expo-router';
import { ComparePlace } from '../../../../../../src/places/compare/compare-place';

export default function GroupCompare() {
  const { groupId } = useLocalSearchParams<{ groupId: string }>();
  return <ComparePlace key={groupId} containerId={groupId} />;
}
