import { SEQUENCE } from '@hastig/core';
import { BeatsPlace } from '../../../../src/places/beats/beats-place';

export default function Beats() {
  return <BeatsPlace containerId={SEQUENCE} />;
}
