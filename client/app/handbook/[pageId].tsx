import { useLocalSearchParams } from 'expo-router';
import { HandbookPlace } from '../../src/places/handbook/handbook-place';

export default function HandbookPage() {
  const { pageId } = useLocalSearchParams<{ pageId: string }>();
  return <HandbookPlace id={pageId} />;
}
