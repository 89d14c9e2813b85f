import type { Clip, FrameRange, PictureTrack, ProjectDocument, Source, Span } from '@hastig/contract';
import { keptPoints, trackPoints } from '../steady';
import type { TrackedPoint } from '../track';
import { withScaledSettings } from '../timeline/clip-settings';
import { withEachClip, withVersions } from '../versions/each';

function scaledSpan(span: Span, times: number): Span {
  const y = span.of === 'position' ? (span.y.map((frame) => frame * times) as Span['y']) : span.y;
  return { ...span, y, ...(span.jump !== undefined && { jump: span.jump * times }) };
}

/** A clip that shows the same moments of its source, counted in positions of which there are `times` as many. */
export function scaledClip(clip: Clip, times: number): Clip {
  const { start, spans, pins } = clip.timing;
  const timing: Clip['timing'] = {
    ...clip.timing,
    start: start * times,
    spans: spans.map((span) => scaledSpan(span, times)),
    ...(pins && { pins: pins.map((pin) => ({ ...pin, source: pin.source * times })) }),
  };
  return withVersions({ ...withScaledSettings(clip, times), timing }, (one) => scaledClip(one, times));
}

function scaledPart({ from, frames }: FrameRange, times: number): FrameRange {
  const [start, end] = [Math.floor(from * times), Math.ceil((from + frames) * times)];
  return { from: start, frames: end - start };
}

/** A track of a source of whose positions there are `times` as many: straight between those that were told. */
function scaledTrack(track: PictureTrack, times: number): PictureTrack {
  if (times === 1) return track;
  const points = trackPoints(track);
  const last = points.length - 1;
  const scaled = Array.from({ length: Math.max(1, Math.round(points.length * times)) }, (_, position) => {
    const before = Math.min(last, position / times);
    const [a, b] = [points[Math.floor(before)]!, points[Math.ceil(before)]!];
    const between = (name: keyof TrackedPoint): number => a[name] + (b[name] - a[name]) * (before % 1);
    return { x: between('x'), y: between('y'), confidence: between('confidence') };
  });
  return { ...track, frame: Math.floor(track.frame * times), at: keptPoints(scaled) };
}

/**
 * The project with a source in place of the one before, of whose positions there are `times` as many in the same time: its part,
 * its markers and the timing of its clips go along, so that every clip shows the same moments at the same times as before.
 */
export function withScaledSource(project: ProjectDocument, source: Source, times: number): ProjectDocument {
  const { part, markers, tracks, cameras, ...rest } = source;
  const changed: Source = {
    ...rest,
    ...(part && { part: scaledPart(part, times) }),
    ...(markers && { markers: markers.map((marker) => ({ ...marker, at: Math.floor(marker.at * times) })) }),
    ...(tracks && { tracks: tracks.map((track) => scaledTrack(track, times)) }),
    // How the camera moved between other positions is to be analysed anew.
    ...(cameras && times === 1 && { cameras }),
  };
  const mine = ({ of }: Clip): boolean => of.kind === 'source' && of.id === source.id;
  const state = { ...project, sources: project.sources.map((one) => (one.id === source.id ? changed : one)) };
  return times === 1 ? state : withEachClip(state, (clip) => (mine(clip) ? scaledClip(clip, times) : clip));
}
