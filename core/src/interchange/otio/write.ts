import type { Clip, Container, Marker, ProjectDocument, Track } from '@hastig/contract';
import { rateToNumber } from '../../time';
import { containerFrames, findContainer, findSource, layoutOf, mapOf, sourceFrames, sourceRate } from '../../timeline';
import { linearPieces, type LinearPiece } from './pieces';
import { markerColours, OWN_KEY, range, time, type OtioObject } from './schema';

/** A project's sequence as OpenTimelineIO, and what the linear pieces could not say. */
interface WrittenOtio {
  json: OtioObject;
  /** Greatest difference between a curve and its pieces at a sourceRange output frame, in source frames; 0 where all is linear. */
  greatestError: number;
  /** Clips whose curve was cut into pieces. */
  curves: number;
}

/**
 * Writes the sequence as an OpenTimelineIO timeline. Curves go into metadata under our own key as they are; the standard part
 * has them in linear pieces, one after the other.
 *
 * @param address where a source's file is, for its external reference
 */
export function writeOtio(project: ProjectDocument, address: (sha256: string) => string): WrittenOtio {
  const report = { greatestError: 0, curves: 0 };
  const { sequence } = project;
  const rate = rateToNumber(sequence.rate);
  const json: OtioObject = {
    OTIO_SCHEMA: 'Timeline.1',
    name: project.name,
    global_start_time: time(sequence.startFrame, rate),
    metadata: {
      [OWN_KEY]: {
        rate: sequence.rate,
        width: sequence.width,
        height: sequence.height,
        sampleRate: sequence.sampleRate,
        ...(sequence.master && { master: sequence.master }),
        ...(sequence.exposures && { exposures: sequence.exposures }),
        ...(sequence.effects && { effects: sequence.effects }),
      },
    },
    tracks: stackOf(project, sequence, 'tracks', address, report),
  };
  return { json, ...report };
}

type Report = Pick<WrittenOtio, 'greatestError' | 'curves'>;
type Address = (sha256: string) => string;

const item = { effects: [], markers: [], enabled: true, metadata: {} };

function stackOf(
  project: ProjectDocument,
  container: Container,
  name: string,
  address: Address,
  report: Report,
): OtioObject {
  const rate = rateToNumber(container.rate);
  return {
    OTIO_SCHEMA: 'Stack.1',
    ...item,
    name,
    source_range: null,
    markers: container.markers.map((marker) => markerOf(marker, rate)),
    children: container.tracks.map((track) => trackOf(project, track, rate, address, report)),
  };
}

function markerOf({ at, name, tone }: Marker, rate: number): OtioObject {
  return {
    OTIO_SCHEMA: 'Marker.2',
    name,
    color: markerColours[tone],
    comment: '',
    marked_range: range(time(at, rate), time(1, rate)),
    metadata: {},
  };
}

function trackOf(project: ProjectDocument, track: Track, rate: number, address: Address, report: Report): OtioObject {
  const children = layoutOf(project, track).flatMap(({ clip, from, to }) =>
    clip ? clipOf(project, clip, rate, track.kind === 'sound', address, report) : [gapOf(to - from, rate)],
  );
  const kind = track.kind === 'picture' ? 'Video' : 'Audio';
  return {
    ...{ OTIO_SCHEMA: 'Track.1', ...item, name: track.name, kind, source_range: null, children },
    enabled: !track.off,
    // Ducking names another track by its id.
    metadata: { [OWN_KEY]: { id: track.id, ...(track.sound && { sound: track.sound }) } },
  };
}

const gapOf = (frames: number, rate: number): OtioObject => ({
  OTIO_SCHEMA: 'Gap.1',
  ...item,
  name: '',
  source_range: range(time(0, rate), time(frames, rate)),
});

function clipOf(
  project: ProjectDocument,
  clip: Clip,
  rate: number,
  heardOnly: boolean,
  address: Address,
  report: Report,
): OtioObject[] {
  const map = mapOf(project, clip);
  const { pieces, greatestError } = linearPieces(map, clip.shown);
  report.greatestError = Math.max(report.greatestError, greatestError);
  if (pieces.length > 1) report.curves++;
  const { id, of: _of, name: _name, ...settings } = clip;
  // All that travels with a clip, by which a detached sound finds its picture again too.
  const own = { id, ...settings };
  return pieces.map((piece, index) => ({
    ...madeOf(project, clip, address, report),
    ...item,
    name: clip.name,
    effects: effectsOf(piece),
    // A muted clip is seen; only of sound alone it means that nothing is left of it.
    enabled: !(clip.muted && heardOnly),
    metadata: { [OWN_KEY]: index === 0 ? { ...own, pieces: pieces.length } : { piece: index } },
    source_range: range(time(piece.source, rateToNumber(map.sourceRate)), time(piece.frames, rate)),
  }));
}

function effectsOf({ speed }: LinearPiece): OtioObject[] {
  if (Math.abs(speed - 1) < 1e-12) return [];
  const warp = { name: '', metadata: {}, enabled: true };
  return Math.abs(speed) < 1e-12
    ? [{ OTIO_SCHEMA: 'FreezeFrame.1', ...warp, effect_name: 'FreezeFrame', time_scalar: 0 }]
    : [{ OTIO_SCHEMA: 'LinearTimeWarp.1', ...warp, effect_name: 'LinearTimeWarp', time_scalar: speed }];
}

function madeOf(project: ProjectDocument, clip: Clip, address: Address, report: Report): OtioObject {
  if (clip.of.kind === 'group') {
    const group = findContainer(project, clip.of.id)!;
    const rate = rateToNumber(group.rate);
    const stack = stackOf(project, group, clip.name, address, report);
    const sourceRange = range(time(0, rate), time(containerFrames(project, group), rate));
    // A stack of a piece has the piece's range; the group itself, with its own markers, lies one level deeper.
    return { OTIO_SCHEMA: 'Stack.1', children: [{ ...stack, source_range: sourceRange }] };
  }
  const source = findSource(project, clip.of.id)!;
  const rate = rateToNumber(sourceRate(source));
  return {
    OTIO_SCHEMA: 'Clip.2',
    active_media_reference_key: 'DEFAULT_MEDIA',
    media_references: {
      DEFAULT_MEDIA: {
        OTIO_SCHEMA: 'ExternalReference.1',
        name: source.name,
        target_url: address(source.sha256),
        available_range: range(time(0, rate), time(sourceFrames(source), rate)),
        available_image_bounds: null,
        metadata: { [OWN_KEY]: { sha256: source.sha256 } },
      },
    },
  };
}
