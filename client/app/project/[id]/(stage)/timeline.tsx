import { SEQUENCE } from '@hastig/core';
import { TimelinePlace } from '../../../../src/places/timeline/timeline-place';

export default function Timeline() {
  return <TimelinePlace containerId={SEQUENCE} />;
}
