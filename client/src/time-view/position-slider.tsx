import { memo, type KeyboardEvent } from 'react';
import { useStage } from '../stage/stage-context';
import { useSession } from '../store/hooks';
import { frameToX, type TimeControl } from './use-time-view';

/** Pixels of what the playhead is moved by with the keyboard: large enough to be pointed at too. */
const TARGET = 26;

interface PositionSliderProps {
  label: string;
  /** First frame and the one after the last, of what it goes to with Home and End. */
  from: number;
  to: number;
  time: TimeControl;
  /** A frame in words. */
  say(frame: number): string;
}

/** The playhead as a slider of a time axis, apart from all that is drawn there: it moves with every frame. Plus and minus zoom. */
export const PositionSlider = memo(function PositionSlider({ label, from, to, time, say }: PositionSliderProps) {
  const { playhead } = useSession('playhead');
  const { seek } = useStage();
  const last = Math.max(1, Math.ceil(to) - 1);
  const onKeyDown = (event: KeyboardEvent): void => {
    const jump = { Home: from, End: Math.ceil(to) - 1 }[event.key];
    if (jump !== undefined) seek(jump);
    else if (event.key === '+' || event.key === '-')
      time.zoomAt(frameToX(time.view, playhead), event.key === '+' ? 2 : 0.5);
    else return;
    event.preventDefault();
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={last}
      aria-valuenow={Math.min(playhead, last)}
      aria-valuetext={say(playhead)}
      onKeyDown={onKeyDown}
      style={{ position: 'absolute', left: 0, right: 0, bottom: 0, height: TARGET }}
    />
  );
});
