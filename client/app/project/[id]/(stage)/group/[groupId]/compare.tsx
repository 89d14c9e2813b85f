import { useLocalSearchParams } from 'expo-router';
import { ComparePlace } from '../../../../../../src/places/compare/compare-place';
import { Later } from '../../../../../../src/ui/later';

export default function GroupCompare() {
  const { groupId } = useLocalSearchParams<{ groupId: string }>();
  return (
    <Later key={groupId}>
      <ComparePlace containerId={groupId} />
    </Later>
  );
}
