import type {
  Clip,
  Colours,
  Marker,
  MediaFacts,
  PictureTrack,
  ProjectDocument,
  SoundFacts,
  Source,
  FrameRange,
} from '@hastig/contract';
import { fileCountOf, kindOf, pictureOf, type FootageKind } from '../counting';
import { fieldsOf, framesPerFileFrame, suggestedFields } from '../fields';
import type { Size } from '../picture';
import { EditRefused, frameCount } from '../retime';
import { formatRate, rateToNumber } from '../time';
import { clipMap, sourceFrames } from '../timeline/clip-map';
import { removeClips } from '../timeline/edit/arrange';
import { placeOf } from '../timeline/lookup';
import { checkedName } from '../timeline/edit/name';

const bySource = new WeakMap<readonly Clip[], ReadonlyMap<string, Clip[]>>();

/** The clips made of a source, wherever they lie. */
export function clipsOfSource({ clips }: ProjectDocument, sourceId: string): readonly Clip[] {
  let found = bySource.get(clips);
  if (!found) {
    const made = new Map<string, Clip[]>();
    for (const clip of clips) {
      if (clip.of.kind !== 'source') continue;
      const row = made.get(clip.of.id);
      if (row) row.push(clip);
      else made.set(clip.of.id, [clip]);
    }
    bySource.set(clips, made);
    found = made;
  }
  return found.get(sourceId) ?? [];
}

/** The project without a source and the clips made of it; gaps stay where they were. */
export function removeSource(project: ProjectDocument, sourceId: string): ProjectDocument {
  const without = clipsOfSource(project, sourceId).reduce(
    (state, { id }) => (placeOf(state, id) ? removeClips(state, [id], 'leave') : state),
    project,
  );
  return { ...without, sources: without.sources.filter(({ id }) => id !== sourceId) };
}

/** Whole output frames of a clip's timing, hidden handles included. */
export function clipFrames(project: ProjectDocument, clip: Clip): number {
  const map = clipMap(project, clip);
  return map ? frameCount(map) : 0;
}

function withSource(project: ProjectDocument, sourceId: string, change: (source: Source) => Source): ProjectDocument {
  return { ...project, sources: project.sources.map((one) => (one.id === sourceId ? change(one) : one)) };
}

/** Renames a source; the clips made of it keep their names. */
export function renameSource(project: ProjectDocument, sourceId: string, name: string): ProjectDocument {
  const kept = checkedName(name);
  return withSource(project, sourceId, (source) => ({ ...source, name: kept }));
}

/**
 * Chooses the part of a source that new clips of it show; clips that are there already stay as they are.
 *
 * @param part in frames of the source, or undefined for all of it
 */
export function withSourcePart(
  project: ProjectDocument,
  sourceId: string,
  part: FrameRange | undefined,
): ProjectDocument {
  return withSource(project, sourceId, ({ part: _old, ...source }) => {
    const frames = sourceFrames(source);
    if (part && !(part.frames >= 1 && part.from >= 0 && part.from + part.frames <= frames)) {
      throw new EditRefused('part', `The source has frames 0 to ${frames - 1}.`);
    }
    return part && part.frames < frames ? { ...source, part } : source;
  });
}

/** Gives a source other markers, in its frames; in order. */
export function withSourceMarkers(
  project: ProjectDocument,
  sourceId: string,
  markers: readonly Marker[],
): ProjectDocument {
  return withSource(project, sourceId, ({ markers: _old, ...source }) =>
    markers.length > 0 ? { ...source, markers: [...markers].sort((a, b) => a.at - b.at) } : source,
  );
}

/** What differs between two files, for people: rate, frames, size, sound. */
export function fileDifferences(before: MediaFacts, after: MediaFacts): string[] {
  const channels = ({ audio }: MediaFacts): string => (audio ? `${audio.channels} channels` : 'no sound');
  const size = (facts: MediaFacts): string => {
    const picture = pictureOf(facts);
    return picture ? `${picture.width} × ${picture.height}` : 'no picture';
  };
  const counts = (facts: MediaFacts): { rate: string; length: string } => {
    const { rate, frames } = fileCountOf({ facts });
    return kindOf(facts) === 'sound'
      ? { rate: `${rate.num} Hz`, length: `${frames} samples` }
      : { rate: `${formatRate(facts.video?.rate ?? rate)} fps`, length: `${facts.video?.frames ?? frames} frames` };
  };
  const pairs: [string, string, string][] = [
    ['rate', counts(before).rate, counts(after).rate],
    ['length', counts(before).length, counts(after).length],
    ['size', size(before), size(after)],
    ['sound', channels(before), channels(after)],
  ];
  return pairs.filter(([, was, is]) => was !== is).map(([what, was, is]) => `${what} was ${was}, is ${is}`);
}

/** The facts of the track of sound that is heard of a source; null where it has none. */
export function soundOf({ facts, soundTrack = 0 }: Pick<Source, 'facts' | 'soundTrack'>): SoundFacts | null {
  return facts.sounds?.[soundTrack] ?? facts.audio;
}

/** Samples of the sound that is heard of a source for each of its positions, whatever rate those are read at. */
export function samplesPerPosition(source: Source): number {
  const { rate } = fileCountOf(source);
  const sound = soundOf(source);
  return sound ? sound.sampleRate / (rateToNumber(rate) * framesPerFileFrame(fieldsOf(source))) : 0;
}

/** Chooses which of its file's tracks of sound is heard of a source, by its place in `facts.sounds`. */
export function withSoundTrack(project: ProjectDocument, sourceId: string, track: number): ProjectDocument {
  return withSource(project, sourceId, ({ soundTrack: _old, ...source }) => {
    if (!(track in (source.facts.sounds ?? [])))
      throw new EditRefused('track', 'The file doesn’t have this sound track.');
    return track === 0 ? source : { ...source, soundTrack: track };
  });
}

/**
 * Says what a source's values stand for.
 *
 * @param colours undefined for what its file says, or what is assumed where it says nothing
 */
export function withColours(project: ProjectDocument, sourceId: string, colours: Colours | undefined): ProjectDocument {
  return withSource(project, sourceId, ({ colours: _old, ...source }) => (colours ? { ...source, colours } : source));
}

/** What one file can stand in for another by. */
const nature: Record<FootageKind, string> = {
  video: 'a moving picture',
  stills: 'a moving picture',
  still: 'a still',
  sound: 'sound alone',
};

/**
 * Puts another file behind a source. The timing of all clips stays as it is; a part or markers that lie past the new file's
 * end are taken away.
 *
 * @throws EditRefused where one is a moving picture and the other is none: no timing of one makes sense of the other
 */
export function replaceFile(
  project: ProjectDocument,
  sourceId: string,
  file: { sha256: string; facts: MediaFacts },
): ProjectDocument {
  return withSource(project, sourceId, (old) => {
    const [was, is] = [kindOf(old.facts), kindOf(file.facts)];
    if (nature[was] !== nature[is]) {
      throw new EditRefused(
        'file',
        `“${old.name}” is ${nature[was]}; the new file is ${nature[is]}. Import it instead.`,
      );
    }
    // What was said of the old file's colours, and told of its camera, is not said of the new one's.
    const { part, markers, counting, tracks, colours: _colours, cameras: _cameras, soundTrack = 0, ...rest } = old;
    // Its fields are taken as they were: another scan that suggests another way must not shift any clip's frames.
    const before = fieldsOf(old);
    const suggested = suggestedFields(file);
    const source: Source = { ...rest, ...file, ...(counting && file.facts.video?.varying && { counting }) };
    if (framesPerFileFrame(before) !== framesPerFileFrame(suggested)) source.fields = before;
    const frames = sourceFrames(source);
    return {
      ...source,
      ...(soundTrack in (file.facts.sounds ?? []) && soundTrack > 0 && { soundTrack }),
      ...(part && part.from + part.frames <= frames && { part }),
      ...(markers && { markers: markers.filter(({ at }) => at < frames) }),
      ...(tracks && {
        tracks: tracks.map((track) => resizedTrack(track, pictureOf(old.facts), pictureOf(file.facts))),
      }),
    };
  });
}

/** A track in pixels of a picture of another size. */
function resizedTrack(track: PictureTrack, was: Size | null, is: Size | null): PictureTrack {
  if (!was || !is || (was.width === is.width && was.height === is.height)) return track;
  const [across, down] = [is.width / was.width, is.height / was.height];
  const { box, at } = track;
  return {
    ...track,
    box: { x: box.x * across, y: box.y * down, width: box.width * across, height: box.height * down },
    at: at.map((value, n) => (n % 3 === 0 ? value * across : n % 3 === 1 ? value * down : value)),
  };
}
