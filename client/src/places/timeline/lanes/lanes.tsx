import type { ProjectDocument, Source } from '@hastig/contract';
import { EditRefused, edgesOf, findClip, findContainer, handlesOf, mapOf, SEQUENCE } from '@hastig/core';
import { useImperativeHandle, useLayoutEffect, useMemo, useRef, type RefObject } from 'react';
import { useStore } from 'react-redux';
import { linesOver } from '../../../beats/marker-moments';
import type { SpotAt } from '../../../sound-effects/drag-effect';
import { useWaveforms } from '../../../sound/use-waveforms';
import { useThumbs } from '../../../stage/thumbs-context';
import { commitProject } from '../../../store/edit';
import { useAppDispatch, useSession } from '../../../store/hooks';
import { gapChosen, noticeSet } from '../../../store/session-slice';
import type { RootState } from '../../../store/store';
import { Bubble } from '../../../time-view/bubble';
import { MarkerLines } from '../../../time-view/marker-lines';
import { Playhead } from '../../../time-view/playhead';
import { localPoint, sizedContext, useSize } from '../../../time-view/use-size';
import { xToFrame, type TimeControl } from '../../../time-view/use-time-view';
import { currentTheme } from '../../../ui/theme';
import { useStable } from '../../../ui/use-stable';
import { useWide } from '../../../ui/use-wide';
import { deafWords } from '../../../project/deaf-words';
import { ClipBox } from './clip-box';
import { draggedClip } from './drag-clip';
import { GapBox } from './gap-box';
import { drawLanes } from './draw-lanes';
import { CrowdBox } from './crowd-box';
import { apart, clipCount, itemsInSight, laneAt, lanesHeight, lanesOf, snapped } from './lanes-view';
import { useClipDrag } from './use-clip-drag';

/** Pixels within which what is dropped rests on the playhead or an edge. */
const SPOT_REACH = 9;

interface LanesProps {
  /** Set to what tells the spot under a point of the page; null outside the tracks. */
  spotAt: RefObject<SpotAt | null>;
  containerId: string;
  /** The project as it is shown, with what is being tried out. */
  project: ProjectDocument;
  time: TimeControl;
  onChoose(clipId: string, more: boolean): void;
  onNowhere(): void;
}

/** The tracks with their clips, zoomed and panned, dragged and chosen. */
export function Lanes({ spotAt, containerId, project, time, onChoose, onNowhere }: LanesProps) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const wide = useWide();
  const { unit, selectedClips, gap, markerSet } = useSession('unit', 'selectedClips', 'gap', 'markerSet');
  const canvas = useRef<HTMLCanvasElement>(null);
  const overlay = useRef<HTMLDivElement>(null);
  const size = useSize(overlay);
  const { thumbs, made } = useThumbs();
  const waves = useWaveforms(useSoundSources(project, containerId));
  const theme = currentTheme();
  const container = findContainer(project, containerId)!;
  const lanes = useMemo(() => lanesOf(container, wide, size.height), [container, wide, size.height]);
  const least = useMemo(() => lanesHeight(lanesOf(container, wide)), [container, wide]);
  const { width: pictureWidth, height: pictureHeight } = project.sequence;
  const { from, to, width: pixels } = time.view;

  useLayoutEffect(() => {
    const context = sizedContext(canvas.current!, size);
    const view = { from, to, width: pixels };
    const wishes = drawLanes(context, {
      project,
      containerId,
      lanes,
      view,
      thumbs,
      waves,
      aspect: pictureWidth / pictureHeight,
    });
    thumbs?.want(wishes);
    overlay.current!.ariaBusy = String(!thumbs || !thumbs.has(wishes));
  }, [project, containerId, lanes, from, to, pixels, size, thumbs, made, waves, pictureWidth, pictureHeight, theme]);

  useImperativeHandle(
    spotAt,
    () => (x: number, y: number) => {
      const point = localPoint(overlay.current!, [x, y]);
      const { clientWidth, clientHeight } = overlay.current!;
      if (point.x < 0 || point.y < 0 || point.x > clientWidth || point.y > clientHeight) return null;
      const { view } = time;
      const at = Math.max(0, Math.round(xToFrame(view, point.x)));
      const { snap, playhead } = store.getState().session;
      const rests = snap ? snapped(at, [playhead, ...edgesOf(project, container)], view, SPOT_REACH) : undefined;
      return { frame: rests ?? at, trackId: laneAt(lanes, point.y).track.id };
    },
    [lanes, time, project, container, store],
  );

  const chosen = useMemo(() => new Set(selectedClips), [selectedClips]);
  const view = useMemo(() => ({ from, to, width: pixels }), [from, to, pixels]);
  const lines = useMemo(() => linesOver(project, containerId, markerSet), [project, containerId, markerSet]);
  const onCloser = useStable((first: number, after: number) => time.show(first, after));
  const onGap = useStable((trackId: string, from: number) => void dispatch(gapChosen({ trackId, from })));
  const bubble = useClipDrag({ overlay, lanes, time, selected: selectedClips, onChoose, onGap, onNowhere });

  const onStep = useStable((clipId: string, side: 'start' | 'end', by: number): void => {
    const { project: saved, session } = store.getState();
    if (!saved.document) return;
    const { playhead, edges, rippleMode } = session;
    const state = { by, trackId: '', view: time.view, playhead, snap: false, edges, rippleMode };
    try {
      const result = draggedClip(saved.document, { what: 'edge', clipId, side }, state);
      dispatch(commitProject(result.label, result.project));
    } catch (error) {
      if (!(error instanceof EditRefused)) throw error;
      dispatch(noticeSet(error.message));
    }
  });

  return (
    <div style={{ position: 'relative', flex: '1 0 auto', minHeight: least }}>
      <canvas ref={canvas} aria-hidden style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} />
      <div
        ref={overlay}
        role="group"
        aria-label="Tracks"
        data-testid="lanes"
        onContextMenu={(event) => event.preventDefault()}
        style={{ position: 'absolute', inset: 0, touchAction: 'pan-y', overflow: 'hidden', userSelect: 'none' }}
      >
        {lanes.map((lane) => {
          const { single, crowds } = apart(itemsInSight(project, lane.track, time.view), chosen);
          const count = clipCount(project, lane.track);
          const start = containerId === SEQUENCE ? project.sequence.startFrame : 0;
          return (
            <div key={lane.track.id} role="list" aria-label={lane.track.name}>
              <TrackName top={lane.top} height={lane.height} name={lane.track.name} off={lane.track.off ?? false} />
              {crowds.map((crowd) => (
                <div key={`crowd ${crowd.from}`} role="listitem">
                  <CrowdBox {...{ crowd, unit, start, onCloser }} lane={lane} rate={container.rate} />
                </div>
              ))}
              {single.map(({ clip, number, x, width, from, to }) =>
                clip ? (
                  <div key={clip.id} role="listitem">
                    <ClipBox
                      {...{ clip, x, width, from, to, unit, onChoose, onStep }}
                      map={mapOf(project, clip)}
                      {...handlesOf(project, clip.id)}
                      top={lane.top}
                      height={lane.height}
                      place={`${number} of ${count} on ${lane.track.name}`}
                      start={start}
                      selected={chosen.has(clip.id)}
                      deaf={deafWords(project, clip) !== undefined}
                    />
                  </div>
                ) : (
                  <div key={`gap ${from}`} role="listitem">
                    <GapBox
                      {...{ x, width, from, to, unit, onGap }}
                      rate={container.rate}
                      top={lane.top}
                      height={lane.height}
                      track={lane.track}
                      start={start}
                      chosen={gap?.trackId === lane.track.id && gap.from === from}
                    />
                  </div>
                ),
              )}
            </div>
          );
        })}
        <MarkerLines moments={lines} view={view} height={size.height} />
        <Playhead view={time.view} />
        {bubble ? <Bubble {...bubble} width={pixels} /> : null}
      </div>
    </div>
  );
}

/** The sources that lie on sound tracks; the same list as long as they are the same. */
function useSoundSources(project: ProjectDocument, containerId: string): readonly Source[] {
  const container = findContainer(project, containerId)!;
  const ids = useMemo(() => {
    const clips = container.tracks
      .filter(({ kind }) => kind === 'sound')
      .flatMap(({ items }) =>
        items.flatMap((item) => ('clip' in item ? (findClip(project, item.clip)?.of ?? []) : [])),
      );
    return [...new Set(clips.flatMap((of) => (of.kind === 'source' ? [of.id] : [])))].join(' ');
  }, [project, container]);
  const { sources } = project;
  return useMemo(() => {
    const wanted = new Set(ids.split(' '));
    return sources.filter(({ id }) => wanted.has(id));
  }, [sources, ids]);
}

// Upright in the gutter, so that it takes no room from the clips.
function TrackName({ top, height, name, off }: { top: number; height: number; name: string; off: boolean }) {
  return (
    <div
      aria-hidden
      style={{
        position: 'absolute',
        left: 2,
        top,
        height,
        width: 40,
        display: 'flex',
        alignItems: 'center',
        font: '10px SchibstedGrotesk_400Regular, sans-serif',
        color: 'rgb(var(--quiet))',
        textDecoration: off ? 'line-through' : 'none',
        pointerEvents: 'none',
        overflow: 'hidden',
      }}
    >
      {name}
    </div>
  );
}
