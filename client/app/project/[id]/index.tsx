import { useLocalSearchParams } from 'expo-router';
import { FootagePage } from '../../../src/places/footage/footage-page';

export default function Footage() {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <FootagePage projectId={id} />;
}
