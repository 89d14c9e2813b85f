import type { PicturePlan } from '@hastig/core';
import type { Studio } from '../picture/samples';
import type { RenderJob } from './job';
import type { SoundSide } from './sound-side';
import type { Told } from './told';

/** What a file is made of: its job, what its pictures show, its sources, its sound, and who hears how far it is. */
export interface Made {
  job: RenderJob;
  plan: PicturePlan;
  studio: Studio;
  side: SoundSide;
  /** Pieces of sound that another worker may be ahead. */
  ahead: number;
  told: Told;
}
