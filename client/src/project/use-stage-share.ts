import { useState } from 'react';
import type { Arrangement } from '../ui/use-wide';
import { defaultShare, rememberedShares, rememberShares, stageLength } from './stage-share';

interface StageShare {
  /** Pixels of the stage. */
  value: number;
  /** Gives it other pixels, within what stage and place need. */
  move(value: number): void;
  /** Goes between what was dragged and what it was before: on a phone between a strip and a large picture. */
  toggle(): void;
}

/**
 * How much of the window the stage has, as it was dragged in this browser.
 *
 * @param length pixels that stage and place share
 */
export function useStageShare(arrangement: Arrangement, length: number): StageShare {
  const [shares, setShares] = useState(rememberedShares);
  const begun = defaultShare(arrangement, length);
  const value = stageLength(arrangement, length, shares[arrangement] ?? begun);
  const keep = (share: number | undefined): void => {
    const { [arrangement]: _, ...others } = shares;
    const next = share === undefined ? others : { ...others, [arrangement]: share };
    rememberShares(next);
    setShares(next);
  };
  // A share of 0 or 1 would be none; what counts is only that it is at the end.
  const shareOf = (pixels: number): number => Math.min(0.999, Math.max(0.001, pixels / length));
  const move = (pixels: number): void => keep(shareOf(pixels));
  const toggle = (): void => {
    if (arrangement !== 'phone') keep(undefined);
    else if (value === stageLength('phone', length, 0)) keep(shareOf(Math.max(230, 0.36 * length)));
    else keep(0.001);
  };
  return { value, move, toggle };
}
