import { OutputPlace } from '../../../../src/places/output/output-place';
import { Later } from '../../../../src/ui/later';

export default function Output() {
  return (
    <Later>
      <OutputPlace />
    </Later>
  );
}
