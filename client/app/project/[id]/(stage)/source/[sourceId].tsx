import { useLocalSearchParams } from 'expo-router';
import { SourcePlace } from '../../../../../src/places/footage/source-place';

export default function SourcePage() {
  const { id, sourceId } = useLocalSearchParams<{ id: string; sourceId: string }>();
  return <SourcePlace key={sourceId} projectId={id} sourceId={sourceId} />;
}
