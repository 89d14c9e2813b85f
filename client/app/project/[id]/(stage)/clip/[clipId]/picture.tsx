import { useLocalSearchParams } from 'expo-router';
import { PicturePlace } from '../../../../../../src/places/picture/picture-place';

export default function Picture() {
  const { clipId } = useLocalSearchParams<{ clipId: string }>();
  return <PicturePlace clipId={clipId} />;
}
