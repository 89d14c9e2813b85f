import { ComparePlace } from '../../../../src/places/compare/compare-place';
import { Later } from '../../../../src/ui/later';

export default function Compare() {
  return (
    <Later>
      <ComparePlace />
    </Later>
  );
}
