import { OutputPlace } from '../../../../src/places/output/output-place';

export default function Output() {
  return <OutputPlace />;
}
