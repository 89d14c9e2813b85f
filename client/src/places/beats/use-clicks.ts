import { rateToNumber, type SeenMarker } from '@hastig/core';
import type { Rate } from '@hastig/contract';
import { useEffect } from 'react';
import { useStage } from '../../stage/stage-context';
import { useSession } from '../../store/hooks';

/** A click on each of some markers for as long as the place is open, where it is switched on; higher on downbeats. */
export function useClicks(markers: readonly SeenMarker[], rate: Rate | undefined): void {
  const { setClicks } = useStage();
  const { clicks, clickLoudness } = useSession('clicks', 'clickLoudness');
  useEffect(() => {
    if (!clicks || !rate) return undefined;
    const at = markers.map(({ marker, at: frame }) => ({
      seconds: frame / rateToNumber(rate),
      high: marker.kind === 'downbeat',
    }));
    setClicks({ at, loudness: clickLoudness });
    return () => setClicks(null);
  }, [markers, clicks, clickLoudness, rate, setClicks]);
}
