import type { Marker, Rate, Source } from '@hastig/contract';
import { formatMoment, sourceFrames } from '@hastig/core';
import { useLayoutEffect, useMemo, useRef, type KeyboardEvent } from 'react';
import { useStage } from '../stage/stage-context';
import { useSession } from '../store/hooks';
import { Playhead } from '../time-view/playhead';
import { localPoint, sizedContext, useSize } from '../time-view/use-size';
import { useTimeGestures } from '../time-view/use-time-gestures';
import { drawTimeAxis } from '../time-view/time-axis';
import { frameToX, useTimeView, xToFrame } from '../time-view/use-time-view';
import { AXIS_FONT, colour } from '../ui/palette';
import { MarkerSign } from '../ui/marker-sign';
import { currentTheme } from '../ui/theme';
import { drawWave } from './draw-wave';
import { useWaveforms } from './use-waveforms';
import { WaveState } from './wave-state';

const HEIGHT = 150;
/** Pixels beneath the waveform for the times. */
const AXIS = 18;

interface WaveSheetProps {
  source: Source;
  /** Frames a second in which the source is looked at, and its samples for each. */
  rate: Rate;
  positions: number;
  /** Frames between which new clips lie. */
  part: { from: number; to: number };
  markers: readonly Marker[];
}

/** The waveform of a source along its time: zoomed by wheel or pinch, panned sideways; a tap or a drag goes there. */
export function WaveSheet({ source, rate, positions, part, markers }: WaveSheetProps) {
  const target = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width } = useSize(target);
  const { seek } = useStage();
  const { playhead, unit } = useSession('playhead', 'unit');
  const theme = currentTheme();
  const waves = useWaveforms(useMemo(() => [source], [source]));
  const frames = sourceFrames(source) / positions;
  const time = useTimeView(frames, width);
  const { from, to } = time.view;

  useLayoutEffect(() => {
    const view = { from, to, width };
    const context = sizedContext(canvas.current!, { width, height: HEIGHT });
    context.font = AXIS_FONT;
    drawTimeAxis(context, { rate, length: frames }, { ...view, height: HEIGHT }, unit);
    const box = { x: frameToX(view, 0), width: frameToX(view, frames) - frameToX(view, 0) };
    const each = ((to - from) / width) * positions;
    for (const inside of [false, true]) {
      context.save();
      context.beginPath();
      const [left, right] = [frameToX(view, part.from), frameToX(view, part.to)];
      if (inside) context.rect(left, 0, right - left, HEIGHT);
      else {
        context.rect(0, 0, Math.max(0, left), HEIGHT);
        context.rect(right, 0, Math.max(0, width - right), HEIGHT);
      }
      context.clip();
      context.fillStyle = colour(inside ? 'bone' : 'quiet', inside ? 1 : 0.6);
      drawWave(context, { ...box, top: 4, height: HEIGHT - AXIS - 4 }, width, (x) => {
        const start = xToFrame(view, x) * positions;
        return waves.between(source, start, start + each);
      });
      context.restore();
    }
    target.current!.ariaBusy = String(waves.here === 0);
  }, [waves, source, from, to, width, positions, frames, part.from, part.to, rate, unit, theme]);

  useTimeGestures(
    target,
    time,
    ({ xy, first, tap, pinching, cancel }) => {
      if (pinching) return cancel();
      if (!first || tap) seek(Math.floor(xToFrame(time.view, localPoint(target.current!, xy).x)));
    },
    { filterTaps: true },
  );
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.key !== '+' && event.key !== '-') return;
    event.preventDefault();
    time.zoomAt(frameToX(time.view, playhead), event.key === '+' ? 2 : 0.5);
  };

  return (
    <div
      ref={target}
      role="slider"
      tabIndex={0}
      aria-label={`Waveform of ${source.name}`}
      aria-valuemin={0}
      aria-valuemax={Math.ceil(frames) - 1}
      aria-valuenow={playhead}
      aria-valuetext={formatMoment(playhead, rate, unit)}
      data-testid="waveform"
      onKeyDown={onKeyDown}
      style={{
        position: 'relative',
        height: HEIGHT,
        flex: 'none',
        overflow: 'hidden',
        touchAction: 'pan-y',
        cursor: 'pointer',
        background: 'rgb(var(--raised))',
        borderRadius: 8,
      }}
    >
      <canvas ref={canvas} aria-hidden style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} />
      <Playhead view={time.view} />
      {markers.map((marker) => (
        <div
          key={marker.id}
          aria-hidden
          style={{
            position: 'absolute',
            left: frameToX(time.view, marker.at / positions) - 7,
            top: 2,
            pointerEvents: 'none',
          }}
        >
          <MarkerSign tone={marker.tone} size={14} />
        </div>
      ))}
      <WaveState source={source} />
    </div>
  );
}
