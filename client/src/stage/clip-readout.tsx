import type { RetimeMap } from '@hastig/contract';
import {
  formatMoment,
  formatSourceFrame,
  frameCount,
  heldFrame,
  kindOf,
  parseMoment,
  parseSourceFrame,
  parseSpeed,
  showingsOf,
  speedAt,
} from '@hastig/core';
import { setSpeedHere } from '../store/clip-edits';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { openClip, shownMap } from '../store/selectors';
import { TapNumber } from '../ui/tap-number';
import { useStable } from '../ui/use-stable';
import { ReadoutFrame, SpeedNumber } from './readout-frame';
import { useStage } from './stage-context';

/** Output time, source frame and speed of what is on the stage; each typed where it stands. */
export function ClipReadout({ clipId }: { clipId: string }) {
  const map = useAppSelector((state) => shownMap(state, clipId));
  const sampled = useAppSelector((state) => {
    const source = openClip(state, clipId)?.source;
    return source ? kindOf(source.facts) === 'sound' : false;
  });
  return map ? <MapReadout {...{ clipId, map, sampled }} /> : null;
}

function MapReadout({ clipId, map, sampled }: { clipId: string; map: RetimeMap; sampled: boolean }) {
  const frames = frameCount(map);
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const unit = useAppSelector((state) => state.session.unit);
  const playhead = useAppSelector((state) => Math.min(state.session.playhead, frames - 1));
  const held = heldFrame(map, playhead);
  const speed = speedAt(map, playhead);

  const enterTime = useStable((text: string): string | undefined => {
    const parsed = parseMoment(text, map.outputRate, unit);
    if (!parsed.ok) return parsed.reason;
    if (parsed.value < 0 || parsed.value >= frames) return `is outside the clip, which has ${frames} frames`;
    seek(Math.floor(parsed.value));
    return undefined;
  });

  const enterFrame = useStable((text: string): string | undefined => {
    const parsed = parseSourceFrame(text, unit);
    if (!parsed.ok) return parsed.reason;
    const shown = showingsOf(map, Math.floor(parsed.value));
    // The next appearance from here, or the first one.
    const next = shown.find(({ to }) => to > playhead) ?? shown[0];
    if (!next) return `${text.trim()} isn’t shown in this clip`;
    seek(next.from);
    return undefined;
  });

  const enterSpeed = useStable((text: string): string | undefined => {
    const parsed = parseSpeed(text);
    if (!parsed.ok) return parsed.reason;
    dispatch(setSpeedHere(clipId, playhead, parsed.value));
    return undefined;
  });

  return (
    <ReadoutFrame>
      <TapNumber long label="Output" text={formatMoment(playhead, map.outputRate, unit)} onEnter={enterTime} />
      <TapNumber
        label={sampled ? 'Sample' : 'Source frame'}
        text={formatSourceFrame(held, unit).padStart(4, '0')}
        onEnter={enterFrame}
      />
      <SpeedNumber speed={speed} onEnter={enterSpeed} />
    </ReadoutFrame>
  );
}
