import { useLocalSearchParams } from 'expo-router';
import { BeatsPlace } from '../../../../../../src/places/beats/beats-place';

export default function GroupBeats() {
  const { groupId } = useLocalSearchParams<{ groupId: string }>();
  return <BeatsPlace key={groupId} containerId={groupId} />;
}
