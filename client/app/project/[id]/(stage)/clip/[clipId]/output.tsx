import { useLocalSearchParams } from 'expo-router';
import { OutputPlace } from '../../../../../../src/places/output/output-place';

export default function ClipOutput() {
  const { clipId } = useLocalSearchParams<{ clipId: string }>();
  return <OutputPlace key={clipId} clipId={clipId} />;
}
