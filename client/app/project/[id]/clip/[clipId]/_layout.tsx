import { useLocalSearchParams } from 'expo-router';
import { ClipFrame } from '../../../../../src/project/clip-frame';

export default function ClipLayout() {
  const { id, clipId } = useLocalSearchParams<{ id: string; clipId: string }>();
  return <ClipFrame projectId={id} clipId={clipId} />;
}
