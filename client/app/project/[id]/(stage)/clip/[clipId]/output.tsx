import { useLocalSearchParams } from 'expo-router';
import { OutputPlace } from '../../../../../../src/places/output/output-place';
import { Later } from '../../../../../../src/ui/later';

export default function ClipOutput() {
  const { clipId } = useLocalSearchParams<{ clipId: string }>();
  return (
    <Later key={clipId}>
      <OutputPlace clipId={clipId} />
    </Later>
  );
}
