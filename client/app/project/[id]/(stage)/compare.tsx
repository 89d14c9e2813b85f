import { ComparePlace } from '../../../../src/places/compare/compare-place';

export default function Compare() {
  return <ComparePlace />;
}
