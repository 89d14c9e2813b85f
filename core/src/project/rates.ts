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
import { movedEffects } from '../effects';
import { movedSteps } from '../exposure';
import { withCarriedSettings } from '../timeline/clip-settings';
import { rateRatio } from '../time';
import { sourceRate } from '../timeline/clip-map';
import { layoutOf } from '../timeline/layout';
import { carryUp } from '../timeline/edit/length';
import { findSource, placeOf } from '../timeline/lookup';
import { withEachClip, withVersions } from '../versions/each';

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
    if (!fade) continue;
    const { lead, rest } = fade;
    scaled[name] = {
      ...{ ...fade, frames: fade.frames * factor },
      ...(lead !== undefined && { lead: lead * factor }),
      ...(rest !== undefined && { rest: rest * factor }),
    };
  }
  return scaled;
}

const wholeFrames = (length: number): number => Math.max(1, Math.ceil(length - 1e-6));

/** @param frames it takes on its track; as many as its own length comes to unless told */
function scaledClip(clip: Clip, factor: number, frames?: number): Clip {
  const timing = scaledTiming(clip.timing, factor);
  const length = timing.spans.reduce((sum, span) => sum + span.frames, 0);
  const { sound, ...carried } = withCarriedSettings(clip, (output) => output * factor);
  const stretch = scaledStretch(clip.shown, factor, length);
  // Of a part that takes more or fewer frames here, the beginning stays as far as its timing reaches.
  const from = frames === undefined ? stretch.from : Math.max(0, Math.min(stretch.from, wholeFrames(length) - frames));
  const scaled = {
    ...{ ...carried, timing, shown: { from, frames: frames ?? stretch.frames } },
    ...(sound && { sound: scaledFades(sound, factor) }),
  };
  return withVersions(scaled, (one) => scaledClip(one, factor));
}

const scaledMarker = (marker: Marker, factor: number): Marker => ({ ...marker, at: Math.round(marker.at * factor) });

/** A track at another rate, and how long each of its clips is there. */
interface ScaledTrack {
  items: TrackItem[];
  frames: Map<string, number>;
}

// Edges are rounded, not lengths: none is more than half a frame from where it was, however many lie before it. Only what would be
// shorter than a frame pushes what follows, until the next gap or longer clip.
function scaledTrack(project: ProjectDocument, track: Container['tracks'][number], factor: number): ScaledTrack {
  const items: TrackItem[] = [];
  const frames = new Map<string, number>();
  let at = 0;
  for (const { clip, to } of layoutOf(project, track)) {
    const end = Math.max(at + (clip ? 1 : 0), Math.round(to * factor));
    if (clip) {
      items.push({ clip: clip.id });
      frames.set(clip.id, end - at);
    } else if (end > at) items.push({ gap: end - at });
    at = end;
  }
  return { items, frames };
}

/**
 * The project at another sequence rate. Every clip of the sequence keeps its speeds, and begins and ends where it did, to within
 * half a frame; groups keep their own rates.
 */
export function withSequenceRate(project: ProjectDocument, rate: Rate): ProjectDocument {
  const { exposures, effects, ...sequence } = project.sequence;
  const factor = rateRatio(rate, sequence.rate);
  const rows = sequence.tracks.map((track) => scaledTrack(project, track, factor));
  const frames = new Map(rows.flatMap((row) => [...row.frames]));
  return {
    ...project,
    sequence: {
      ...sequence,
      rate,
      startFrame: Math.round(sequence.startFrame * factor),
      tracks: sequence.tracks.map((track, index) => ({ ...track, items: rows[index]!.items })),
      markers: sequence.markers.map((marker) => scaledMarker(marker, factor)),
      ...(exposures && { exposures: movedSteps(exposures, (at) => at * factor) }),
      ...(effects && { effects: movedEffects(effects, (at) => at * factor) }),
    },
    clips: project.clips.map((clip) => {
      const taken = frames.get(clip.id);
      return taken === undefined ? clip : scaledClip(clip, factor, taken);
    }),
  };
}

// The clips of a source after its frames come at another rate: their frames and speeds stay, their lengths change.
function withSource(project: ProjectDocument, before: Source, after: Source): ProjectDocument {
  const factor = rateRatio(sourceRate(before), sourceRate(after));
  const mine = ({ of }: Clip): boolean => factor !== 1 && of.kind === 'source' && of.id === after.id;
  const read = { ...project, sources: project.sources.map((one) => (one.id === after.id ? after : one)) };
  const changed = factor === 1 ? read : withEachClip(read, (clip) => (mine(clip) ? scaledClip(clip, factor) : clip));
  // What shows the groups they lie in goes along, and so on upwards.
  const within = new Set(project.clips.filter(mine).flatMap(({ id }) => placeOf(project, id)?.containerId ?? []));
  return [...within].reduce((state, containerId) => carryUp(project, state, containerId), changed);
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
