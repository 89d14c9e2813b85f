import { HandbookPlace } from '../../src/places/handbook/handbook-place';

export default function Handbook() {
  return <HandbookPlace />;
}
