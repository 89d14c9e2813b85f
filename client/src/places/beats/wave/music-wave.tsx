import type { ProjectDocument } from '@hastig/contract';
import {
  compile,
  findContainer,
  formatMoment,
  mapOf,
  positionAt,
  positionBefore,
  samplesPerPosition,
  SEQUENCE,
  type SeenMarker,
  type BeatAnalysis,
} from '@hastig/core';
import { useLayoutEffect, useMemo, useRef } from 'react';
import { contentSeconds, frameOfContent, type MusicClip } from '../../../beats/music';
import { drawWave } from '../../../sound/draw-wave';
import { samplePeak } from '../../../sound/sample-peak';
import { useSamples } from '../../../sound/use-samples';
import { useWaveforms } from '../../../sound/use-waveforms';
import { WaveState } from '../../../sound/wave-state';
import { useStage } from '../../../stage/stage-context';
import { useSession } from '../../../store/hooks';
import { MarkerLines } from '../../../time-view/marker-lines';
import { Playhead } from '../../../time-view/playhead';
import { PositionSlider } from '../../../time-view/position-slider';
import { drawTimeAxis } from '../../../time-view/time-axis';
import { localPoint, sizedContext, useSize } from '../../../time-view/use-size';
import { useTimeGestures } from '../../../time-view/use-time-gestures';
import { frameToX, xToFrame, type TimeControl } from '../../../time-view/use-time-view';
import { AXIS_FONT, colour } from '../../../ui/palette';
import { currentTheme } from '../../../ui/theme';
import { drawOnsets, heardHits, ONSET_ROW } from './draw-onsets';
import { MarkerSigns, SIGNS } from './marker-signs';
import type { MarkerEdits } from './use-marker-edits';

/** Pixels beneath for the times. */
const AXIS = 18;
/** Samples in a column of pixels below which the samples themselves are drawn. */
const CLOSE = 256;
/** Rows of hits are drawn where there are at least so many pixels. */
const ROOM_FOR_ONSETS = 130;

interface MusicWaveProps {
  containerId: string;
  project: ProjectDocument;
  music: MusicClip;
  /** What was heard in it; undefined until then, and where that failed. */
  analysis: BeatAnalysis | undefined;
  /** Whether that is still to come. */
  waiting: boolean;
  markers: readonly SeenMarker[];
  selected: ReadonlySet<string>;
  time: TimeControl;
  edits: MarkerEdits;
}

/** Music as it is heard on the timeline, its hits beneath, markers over it; zoomed down to single samples. */
export function MusicWave(props: MusicWaveProps) {
  const { containerId, project, music, analysis, waiting, markers, selected, time, edits } = props;
  const target = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const size = useSize(target);
  const { seek } = useStage();
  const { unit } = useSession('unit');
  const theme = currentTheme();
  const { clip, source, from: begins, to: ends } = music;
  const waves = useWaveforms(useMemo(() => [source], [source]));
  const container = findContainer(project, containerId)!;
  const { rate } = container;
  const start = containerId === SEQUENCE ? project.sequence.startFrame : 0;
  const { from, to } = time.view;
  const { width, height } = size;
  const ready = useMemo(() => compile(mapOf(project, clip)), [project, clip]);
  const hits = useMemo(
    () => analysis && heardHits(analysis, (seconds) => frameOfContent(project, music, seconds)),
    // By the clip and its timing: what else of the project changes moves no hit.
    [analysis, ready, begins, ends],
  );
  const each = samplesPerPosition(source);
  const [first, last] = [Math.max(begins, from), Math.min(ends, to)].map(
    (frame) => each * positionAt(ready, Math.max(0, frame - begins + clip.shown.from)),
  );
  const low = Math.max(0, Math.floor(Math.min(first!, last!)));
  const count = Math.ceil(Math.abs(last! - first!)) + 2;
  const stretch = useSamples(
    source,
    count < CLOSE * width && to > begins && from < ends ? { first: low, count } : null,
  );

  useLayoutEffect(() => {
    const view = { from, to, width };
    const context = sizedContext(canvas.current!, { width, height });
    context.font = AXIS_FONT;
    const length = Math.max(ends, 1);
    drawTimeAxis(context, { rate, length }, { ...view, height }, unit);
    const onsetsAt = height - AXIS - 3 * ONSET_ROW;
    const withOnsets = hits !== undefined && height >= ROOM_FOR_ONSETS;
    const box = {
      x: frameToX(view, begins),
      width: frameToX(view, ends) - frameToX(view, begins),
      top: SIGNS,
      height: (withOnsets ? onsetsAt : height - AXIS) - SIGNS - 4,
    };
    context.fillStyle = colour('quiet');
    const end = ready.length;
    const positionAtX = (x: number): number =>
      positionBefore(ready, Math.min(end, Math.max(0, xToFrame(view, x) - begins + clip.shown.from)));
    drawWave(context, box, width, (x) => {
      const [a, b] = [positionAtX(x), positionAtX(x + 1)];
      return (stretch && samplePeak(stretch, a * each, b * each)) ?? waves.between(source, a, b);
    });
    if (withOnsets) drawOnsets(context, onsetsAt, hits, view);
    target.current!.ariaBusy = String(waiting || waves.between(source, 0, 1) === undefined);
  }, [
    waves,
    stretch,
    hits,
    waiting,
    ready,
    source,
    clip,
    begins,
    ends,
    each,
    from,
    to,
    width,
    height,
    rate,
    unit,
    theme,
  ]);

  useTimeGestures(
    target,
    time,
    ({ event, xy, first: begun, tap, pinching, cancel }) => {
      if (pinching || (event.target as HTMLElement).closest('[data-marker], [data-several]')) return cancel();
      if (!begun || tap) seek(Math.floor(xToFrame(time.view, localPoint(target.current!, xy).x)));
    },
    { filterTaps: true },
  );
  const lines = useMemo(
    () => markers.map(({ marker, at }) => ({ at, plain: marker.kind !== 'beat' && marker.kind !== 'hit' })),
    [markers],
  );
  return (
    <div
      ref={target}
      data-testid="music"
      style={{
        position: 'relative',
        flex: 1,
        minHeight: 110,
        overflow: 'hidden',
        touchAction: 'none',
        cursor: 'pointer',
        background: 'rgb(var(--ink))',
      }}
    >
      <canvas
        ref={canvas}
        role="img"
        aria-label={`Waveform of ${source.name}`}
        style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}
      />
      <MarkerLines moments={lines} view={time.view} top={SIGNS} height={Math.max(1, height - SIGNS - AXIS)} />
      <MarkerSigns
        {...{ markers, rate, unit, start, selected, edits }}
        view={time.view}
        onCloser={(a, b) => time.show(a, b)}
      />
      <Playhead view={time.view} />
      <PositionSlider
        label={`Music: ${clip.name}`}
        from={begins}
        to={ends}
        time={time}
        say={(frame) =>
          `${formatMoment(frame, rate, unit)}, ${contentSeconds(project, music, frame).toFixed(3)} s of the music`
        }
      />
      <WaveState source={source} />
    </div>
  );
}
