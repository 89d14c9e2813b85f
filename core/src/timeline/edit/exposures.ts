import type { ExposureStep } from '@hastig/contract';
import { EditRefused } from '../../retime';
import { ownedList } from './owned-list';

/** How pictures of clips and of the film are made; what is last counts over what is before it. */
export const exposureList = ownedList<'exposures'>(
  'exposures',
  ({ over, slow, shutter, samples, every, most, keys, evenLight }: ExposureStep) => {
    if (over && !(over.to > over.from)) throw new EditRefused('over', 'The end must come after the start.');
    if ([slow, shutter, samples, every, most, keys, evenLight].every((said) => said === undefined))
      throw new EditRefused('step', 'Choose what becomes of slow parts, a shutter, or which frames are used.');
  },
);
