import type { RetimeMap, Stretch } from '@hastig/contract';
import { useExtent } from '../../../effects/use-extent';
import { useStretchFields } from '../../../effects/use-stretch-fields';

interface StretchOf {
  clipId: string;
  map: RetimeMap;
  before: { over?: Stretch } | undefined;
}

/** For which stretch of a clip something holds: the choices, and what is chosen. */
export const useStretch = (of: StretchOf): ReturnType<typeof useStretchFields> =>
  useStretchFields(useExtent(of), 'clip');
