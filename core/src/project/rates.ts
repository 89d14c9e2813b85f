import type {
  Clip,
  Container,
  Marker,
  ProjectDocument,
  Rate,
  SoundSettings,
  Source,
  TrackItem,
} from '@hastig/contract';
import { fileCountOf } from '../counting';
import { carriedSettings } from '../timeline/carried-settings';
import { rateRatio } from '../time';
import { sourceRate } from '../timeline/clip-map';
import { findSource, placeOf, SEQUENCE } from '../timeline/lookup';

// All output times in proportion: speeds and contents stay.
function scaledTiming(timing: Clip['timing'], factor: number): Clip['timing'] {
  const { pins } = timing;
  return {
    ...timing,
    spans: timing.spans.map((span) => ({ ...span, frames: span.frames * factor })),
    ...(pins && { pins: pins.map((pin) => ({ ...pin, output: pin.output * factor })) }),
  };
}

// By its two edges, so that what lies side by side still does.
function scaledStretch({ from, frames }: Clip['shown'], factor: number, length: number): Clip['shown'] {
  // What shows only the last part of a frame goes on showing it.
  const start = Math.min(Math.round(from * factor), wholeFrames(length) - 1);
  // A whole clip stays a whole clip, its last part of a frame included.
  const end =
    from + frames === wholeFrames(length / factor) ? wholeFrames(length) : Math.round((from + frames) * factor);
  return { from: start, frames: Math.max(1, end - start) };
}

// As long as they were, in seconds.
function scaledFades(settings: SoundSettings, factor: number): SoundSettings {
  const scaled = { ...settings };
  for (const name of ['fadeIn', 'fadeOut', 'cross'] as const) {
    const fade = settings[name];
    if (fade) scaled[name] = { ...fade, frames: fade.frames * factor };
  }
  return scaled;
}

const wholeFrames = (length: number): number => Math.max(1, Math.ceil(length - 1e-6));

function scaledClip(clip: Clip, factor: number): Clip {
  const timing = scaledTiming(clip.timing, factor);
  const length = timing.spans.reduce((sum, { frames }) => sum + frames, 0);
  const carried = carriedSettings(clip, (output) => output * factor);
  if (carried.sound) carried.sound = scaledFades(carried.sound, factor);
  return { ...clip, timing, shown: scaledStretch(clip.shown, factor, length), ...carried };
}

const scaledItem = (item: TrackItem, factor: number): TrackItem =>
  'gap' in item ? { gap: Math.max(1, Math.round(item.gap * factor)) } : item;

const scaledMarker = (marker: Marker, factor: number): Marker => ({ ...marker, at: Math.round(marker.at * factor) });

function scaledContainer<C extends Container>(container: C, factor: number): C {
  return {
    ...container,
    tracks: container.tracks.map((track) => ({ ...track, items: track.items.map((item) => scaledItem(item, factor)) })),
    markers: container.markers.map((marker) => scaledMarker(marker, factor)),
  };
}

/**
 * The project at another sequence rate. Every clip of the sequence keeps its speeds and its length in seconds, so lengths
 * in frames change with the rate; groups keep their own rates.
 */
export function withSequenceRate(project: ProjectDocument, rate: Rate): ProjectDocument {
  const factor = rateRatio(rate, project.sequence.rate);
  return {
    ...project,
    sequence: {
      ...scaledContainer(project.sequence, factor),
      rate,
      startFrame: Math.round(project.sequence.startFrame * factor),
    },
    clips: project.clips.map((clip) =>
      placeOf(project, clip.id)?.containerId === SEQUENCE ? scaledClip(clip, factor) : clip,
    ),
  };
}

// The clips of a source after its frames come at another rate: their frames and speeds stay, their lengths change.
function withSource(project: ProjectDocument, before: Source, after: Source): ProjectDocument {
  const factor = rateRatio(sourceRate(before), sourceRate(after));
  return {
    ...project,
    sources: project.sources.map((one) => (one.id === after.id ? after : one)),
    clips: project.clips.map((clip) =>
      factor !== 1 && clip.of.kind === 'source' && clip.of.id === after.id ? scaledClip(clip, factor) : clip,
    ),
  };
}

/**
 * The project with a source's frames read at another rate than the file says: 120 fps read as 24 run five times slower
 * at 100%. Its clips keep their frames and their speeds, so their lengths change.
 *
 * @param rate undefined for the file's own
 */
export function withReadAs(project: ProjectDocument, sourceId: string, rate: Rate | undefined): ProjectDocument {
  const source = findSource(project, sourceId);
  if (!source) return project;
  const { readAs: _old, ...rest } = source;
  const read: Source = !rate || rateRatio(rate, fileCountOf(source).rate) === 1 ? rest : { ...rest, readAs: rate };
  return withSource(project, source, read);
}
