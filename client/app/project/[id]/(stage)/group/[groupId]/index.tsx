import { useLocalSearchParams } from 'expo-router';
import { TimelinePlace } from '../../../../../../src/places/timeline/timeline-place';

export default function GroupTimeline() {
  const { groupId } = useLocalSearchParams<{ groupId: string }>();
  return <TimelinePlace key={groupId} containerId={groupId} />;
}
