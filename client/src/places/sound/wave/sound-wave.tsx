import type { Clip, ProjectDocument, RetimeMap, Source } from '@hastig/contract';
import { clipGainAt, compile, formatMoment } from '@hastig/core';
import { useLayoutEffect, useMemo, useRef, type KeyboardEvent } from 'react';
import { useWaveforms } from '../../../sound/use-waveforms';
import { WaveState } from '../../../sound/wave-state';
import { useStage } from '../../../stage/stage-context';
import { useSession } from '../../../store/hooks';
import { drawThreads } from '../../../threads/draw-threads';
import { sourceInSight, type ThreadsView } from '../../../threads/threads-view';
import { Playhead } from '../../../time-view/playhead';
import { localPoint, sizedContext, useSize } from '../../../time-view/use-size';
import { useTimeGestures } from '../../../time-view/use-time-gestures';
import { frameToX, xToFrame, type TimeControl } from '../../../time-view/use-time-view';
import { colour } from '../../../ui/palette';
import { currentTheme } from '../../../ui/theme';

/** How much of the height each of the two waveforms has. */
const STRIP = 0.36;
/** Pixels of what the playhead is moved by with the keyboard. */
const TARGET = 26;

interface SoundWaveProps {
  project: ProjectDocument;
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
  const { playhead, unit, marks } = useSession('playhead', 'unit', 'marks');
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
  const onKeyDown = (event: KeyboardEvent): void => {
    const jump = { Home: 0, End: length - 1 }[event.key];
    if (jump !== undefined) seek(jump);
    else if (event.key === '+' || event.key === '-')
      time.zoomAt(frameToX(time.view, playhead), event.key === '+' ? 2 : 0.5);
    else return;
    event.preventDefault();
  };
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
      <div
        role="slider"
        tabIndex={0}
        aria-label={`Position in ${clip.name}`}
        aria-valuemin={0}
        aria-valuemax={Math.max(1, Math.ceil(length) - 1)}
        aria-valuenow={Math.min(playhead, Math.max(1, Math.ceil(length) - 1))}
        aria-valuetext={formatMoment(playhead, map.outputRate, unit)}
        onKeyDown={onKeyDown}
        style={{ position: 'absolute', left: 0, right: 0, bottom: 0, height: TARGET }}
      />
      <WaveState source={source} />
    </div>
  );
}
