import type { Clip, RetimeMap, Source } from '@hastig/contract';
import { clipGainAt, compile, formatMoment } from '@hastig/core';
import { useLayoutEffect, useMemo, useRef } from 'react';
import { useWaveforms } from '../../../sound/use-waveforms';
import { WaveState } from '../../../sound/wave-state';
import { useStage } from '../../../stage/stage-context';
import { useSession } from '../../../store/hooks';
import { drawThreads } from '../../../time-view/draw-threads';
import { sourceInSight, type ThreadsView } from '../../../time-view/threads-view';
import { Playhead } from '../../../time-view/playhead';
import { PositionSlider } from '../../../time-view/position-slider';
import { localPoint, sizedContext, useSize } from '../../../time-view/use-size';
import { useTimeGestures } from '../../../time-view/use-time-gestures';
import { frameToX, xToFrame, type TimeControl } from '../../../time-view/use-time-view';
import { colour } from '../../../ui/palette';
import { currentTheme } from '../../../ui/theme';

/** How much of the height each of the two waveforms has. */
const STRIP = 0.36;

interface SoundWaveProps {
  clip: Clip;
  source: Source;
  map: RetimeMap;
  time: TimeControl;
}

/** The source's waveform above, that of what will be heard below, and threads between: slow fans out, fast gathers in. */
export function SoundWave({ clip, source, map, time }: SoundWaveProps) {
  const target = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const size = useSize(target);
  const { seek } = useStage();
  const { unit, marks } = useSession('unit', 'marks');
  const theme = currentTheme();
  const waves = useWaveforms(useMemo(() => [source], [source]));
  const { from, to, width } = time.view;
  const { length } = compile(map);
  const view = useMemo<ThreadsView>(
    () => ({
      time: { from, to, width },
      source: sourceInSight(map, { from, to, width }),
      strip: Math.round(size.height * STRIP),
      height: size.height,
    }),
    [from, to, width, map, size.height],
  );
  useLayoutEffect(() => {
    const context = sizedContext(canvas.current!, size);
    drawThreads(context, map, view, {
      aspect: 1,
      get: () => undefined,
      peak: (a, b) => waves.between(source, a, b),
      gainAt: (frame) => clipGainAt(clip, map, frame),
    });
    const [begin, end] = [marks.from, marks.to].map((at) => (at === null ? null : frameToX(view.time, at)));
    if (begin !== null || end !== null) {
      context.fillStyle = colour('bone', 0.12);
      context.fillRect(begin ?? 0, view.height - view.strip, (end ?? width) - (begin ?? 0), view.strip);
    }
    target.current!.ariaBusy = String(waves.between(source, 0, 1) === undefined);
  }, [waves, source, clip, map, view, size, marks, width, theme]);
  useTimeGestures(
    target,
    time,
    ({ xy, first, tap, pinching, cancel }) => {
      if (pinching) return cancel();
      if (!first || tap) seek(Math.floor(xToFrame(time.view, localPoint(target.current!, xy).x)));
    },
    { filterTaps: true },
  );
  return (
    <div
      ref={target}
      data-testid="sound-wave"
      style={{
        ...{ position: 'relative', flex: 1, minHeight: 120, overflow: 'hidden' },
        ...{ touchAction: 'none', cursor: 'pointer', background: 'rgb(var(--ink))' },
      }}
    >
      <canvas
        ref={canvas}
        role="img"
        aria-label={`Sound of ${clip.name}: the source above, as it will be heard below`}
        style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}
      />
      <Playhead view={time.view} />
      <PositionSlider
        label={`Position in ${clip.name}`}
        from={0}
        to={length}
        time={time}
        say={(frame) => formatMoment(frame, map.outputRate, unit)}
      />
      <WaveState source={source} />
    </div>
  );
}
