import {
  keptText,
  checkClip,
  checkEffects,
  checkExposures,
  checkMaster,
  checkProjectDocument,
  checkTrackSound,
  lengthModes,
  markerTones,
  type Clip,
  type Container,
  type LengthMode,
  type Marker,
  type ProjectDocument,
  type Rate,
  type Source,
  type Track,
  type TrackItem,
} from '@hastig/contract';
import { constantSpan } from '../../retime';
import { rateFromNumber, rateRatio, rateToNumber } from '../../time';
import { containerFrames, sourceFrames, sourceRate } from '../../timeline';
import { normalizeItems } from '../../timeline/edit/items';
import { markerColours, OWN_KEY, type OtioObject } from './schema';

/** Thrown for a file that is no OpenTimelineIO timeline, or has no clip that could be laid. */
export class OtioUnreadable extends Error {
  override readonly name = 'OtioUnreadable';
}

/** A timeline that was read, and what of it could not be taken over; for people. */
interface ReadOtio {
  project: ProjectDocument;
  notes: string[];
}

type Own = Record<string, unknown>;

const isObject = (value: unknown): value is OtioObject => typeof value === 'object' && value !== null;
const schemaOf = (value: unknown): string => (isObject(value) ? String(value.OTIO_SCHEMA ?? '').split('.')[0]! : '');
const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);
const text = (value: unknown): string => (typeof value === 'string' ? value : '');
const ownOf = (value: OtioObject): Own => {
  const metadata = isObject(value.metadata) ? value.metadata[OWN_KEY] : undefined;
  return isObject(metadata) ? metadata : {};
};

/** A time in seconds; undefined where there is none. */
function seconds(value: unknown): number | undefined {
  if (!isObject(value)) return undefined;
  const [count, rate] = [Number(value.value), Number(value.rate)];
  return Number.isFinite(count) && rate > 0 ? count / rate : undefined;
}

/**
 * Reads an OpenTimelineIO timeline into a project: its tracks take the place of the sequence's. Media are found among the
 * project's sources, by our own digest where it is there, else by the file's name. Curves that were written by us come
 * back as they were.
 *
 * @param newId gives an id for each thing that is made
 * @throws OtioUnreadable with the reason
 */
export function readOtio(json: unknown, project: ProjectDocument, newId: () => string): ReadOtio {
  if (schemaOf(json) !== 'Timeline') throw new OtioUnreadable('This isn’t an OpenTimelineIO timeline.');
  const timeline = json as OtioObject;
  const stack = isObject(timeline.tracks) ? timeline.tracks : undefined;
  if (!stack) throw new OtioUnreadable('The timeline has no tracks.');
  const reader = new Reader(project, newId);
  const rate = reader.rateOf(timeline, stack);
  const container = reader.container(stack, rate);
  if (reader.clips.length === 0) {
    throw new OtioUnreadable(
      reader.notes.length > 0
        ? `None of its clips can be imported. ${reader.notes.slice(0, 5).join(' ')}`
        : 'The timeline has no clips.',
    );
  }
  const own = ownOf(timeline);
  const start = seconds(timeline.global_start_time) ?? 0;
  const size = (key: 'width' | 'height'): number =>
    Number.isInteger(own[key]) ? (own[key] as number) : project.sequence[key];
  const { master: _master, exposures: _exposures, effects: _effects, ...sequence } = project.sequence;
  const master = own.master === undefined ? undefined : checkMaster(own.master);
  const exposures = own.exposures === undefined ? undefined : checkExposures(own.exposures);
  const effects = own.effects === undefined ? undefined : checkEffects(own.effects);
  const read: ProjectDocument = {
    ...project,
    clips: reader.withPictures(),
    groups: reader.groups,
    sequence: {
      ...sequence,
      ...container,
      ...(master?.ok && { master: master.value }),
      ...(exposures?.ok && { exposures: exposures.value }),
      ...(effects?.ok && { effects: effects.value }),
      width: size('width'),
      height: size('height'),
      startFrame: Math.max(0, Math.round(start * rateToNumber(rate))),
    },
  };
  // A document that could not be saved must not take the place of one that could.
  const checked = checkProjectDocument(read);
  if (!checked.ok) {
    const { pointer, reason } = checked.errors[0]!;
    throw new OtioUnreadable(`It exceeds a limit of projects: ${pointer} ${reason}.`);
  }
  return { notes: reader.notes, project: read };
}

class Reader {
  readonly clips: Clip[] = [];
  readonly groups: ProjectDocument['groups'] = [];
  readonly notes: string[] = [];
  /** Ids that were written by us, and those that clips and tracks have here. */
  private readonly clipIds = new Map<string, string>();

  constructor(
    private readonly project: ProjectDocument,
    private readonly newId: () => string,
  ) {}

  /** The rate of the timeline: ours where it is written, else that of the first duration on a track. */
  rateOf(timeline: OtioObject, stack: OtioObject): Rate {
    const own = ownOf(timeline).rate as Partial<Rate> | undefined;
    if (own && Number.isInteger(own.num) && Number.isInteger(own.den) && own.num! > 0 && own.den! > 0)
      return own as Rate;
    for (const track of list(stack.children)) {
      for (const child of list(isObject(track) ? track.children : [])) {
        const source = isObject(child) && isObject(child.source_range) ? child.source_range : undefined;
        const rate = source && isObject(source.duration) ? Number(source.duration.rate) : NaN;
        if (rate > 0) return rateFromNumber(rate);
      }
    }
    return this.project.sequence.rate;
  }

  container(stack: OtioObject, rate: Rate): Container {
    const children = list(stack.children).filter(isObject);
    const read = children.map((track) => this.track(track, rate));
    const tracks = this.withSounds(read, children);
    const pictures = tracks.filter(({ kind }) => kind === 'picture');
    const all = [...pictures, ...tracks.filter(({ kind }) => kind === 'sound')];
    const markers = list(stack.markers)
      .filter(isObject)
      .map((marker) => this.marker(marker, rate));
    return {
      rate,
      tracks: all.length > 0 ? all : [{ id: this.newId(), kind: 'picture', name: 'Picture', items: [] }],
      markers: markers.sort((a, b) => a.at - b.at),
    };
  }

  /** The clips, each detached sound with the clip whose it was, where that is here. */
  withPictures(): Clip[] {
    return this.clips.map(({ soundFrom, ...clip }) => {
      const of = soundFrom === undefined ? undefined : this.clipIds.get(soundFrom);
      return of === undefined ? clip : { ...clip, soundFrom: of };
    });
  }

  private marker(marker: OtioObject, rate: Rate): Marker {
    const start = isObject(marker.marked_range) ? seconds(marker.marked_range.start_time) : undefined;
    const tone = markerTones.find((one) => markerColours[one] === marker.color) ?? 'oak';
    const at = Math.max(0, Math.round((start ?? 0) * rateToNumber(rate)));
    return { id: this.newId(), at, name: keptText(text(marker.name)), tone };
  }

  // Each track with its sound in the mix; ducking names another of them.
  private withSounds(tracks: readonly Track[], children: readonly OtioObject[]): Track[] {
    const ids = new Map(children.map((child, index) => [ownOf(child).id, tracks[index]!.id]));
    return tracks.map((track, index) => {
      const { sound } = ownOf(children[index]!);
      const checked = sound === undefined ? undefined : checkTrackSound(sound);
      if (!checked?.ok) return track;
      const { duck, ...plain } = checked.value;
      const under = duck && ids.get(duck.under);
      return { ...track, sound: { ...plain, ...(duck && under && { duck: { ...duck, under } }) } };
    });
  }

  private track(track: OtioObject, rate: Rate): Track {
    const kind = track.kind === 'Audio' ? 'sound' : 'picture';
    const name = keptText(text(track.name).trim()) || (kind === 'picture' ? 'Picture' : 'Sound');
    const items: TrackItem[] = [];
    let covered = 0;
    for (const child of list(track.children).filter(isObject)) {
      // What follows the first piece of a curve of ours is in that clip already.
      if (covered > 0 && ownOf(child).piece !== undefined) {
        covered--;
        continue;
      }
      covered = 0;
      const item = this.item(child, rate);
      if (!item) continue;
      items.push(item.laid);
      covered = item.pieces - 1;
    }
    return {
      id: this.newId(),
      kind,
      name,
      items: normalizeItems(items),
      ...(track.enabled === false && { off: true }),
    };
  }

  private item(child: OtioObject, rate: Rate): { laid: TrackItem; pieces: number } | undefined {
    const kind = schemaOf(child);
    const frames = this.framesOf(child, rate);
    if (kind === 'Transition') {
      this.notes.push('A transition was left out.');
      return undefined;
    }
    if (kind === 'Gap') return { laid: { gap: frames }, pieces: 1 };
    const of = kind === 'Clip' ? this.media(child) : kind === 'Stack' ? this.group(child, rate) : undefined;
    if (!of) {
      if (kind !== 'Clip') this.notes.push(`${kind || 'Something'} was left out.`);
      return { laid: { gap: Math.max(1, frames) }, pieces: 1 };
    }
    const clip = this.clip(child, of, Math.max(1, frames), rate);
    this.clips.push(clip);
    return { laid: { clip: clip.id }, pieces: Number(ownOf(child).pieces) || 1 };
  }

  private framesOf(child: OtioObject, rate: Rate): number {
    const range = isObject(child.source_range) ? child.source_range : this.reference(child)?.available_range;
    const lasts = isObject(range) ? seconds(range.duration) : undefined;
    return Math.round((lasts ?? 0) * rateToNumber(rate));
  }

  // Clip.2 keeps its references by keys, Clip.1 had one.
  private reference(child: OtioObject): OtioObject | undefined {
    const all = isObject(child.media_references) ? child.media_references : undefined;
    const one = all ? all[text(child.active_media_reference_key) || 'DEFAULT_MEDIA'] : child.media_reference;
    return isObject(one) ? one : undefined;
  }

  private media(child: OtioObject): { of: Clip['of']; rate: Rate; frames: number; first: number } | undefined {
    const reference = this.reference(child);
    const source = reference && this.source(reference);
    if (!source) {
      const name = text(reference?.name) || baseName(text(reference?.target_url)) || text(child.name) || 'A clip';
      this.notes.push(`${name} isn’t in the footage.`);
      return undefined;
    }
    const available = isObject(reference.available_range) ? reference.available_range : undefined;
    // Media may count from a timecode of their own; ours count from their first frame.
    const first = (seconds(available?.start_time) ?? 0) * rateToNumber(sourceRate(source));
    return { of: { kind: 'source', id: source.id }, rate: sourceRate(source), frames: sourceFrames(source), first };
  }

  private source(reference: OtioObject): Source | undefined {
    const { sha256 } = ownOf(reference);
    const { sources } = this.project;
    const names = [text(reference.name), baseName(text(reference.target_url))].filter(Boolean);
    return sources.find((one) => one.sha256 === sha256) ?? sources.find(({ name }) => names.includes(name));
  }

  private group(child: OtioObject, rate: Rate): { of: Clip['of']; rate: Rate; frames: number; first: number } {
    // Ours has the group one level deeper; another program's stack is the group itself.
    const [only, ...more] = list(child.children);
    const stack = schemaOf(only) === 'Stack' && more.length === 0 ? (only as OtioObject) : child;
    const id = this.newId();
    const name = keptText(text(child.name).trim()) || 'Group';
    const group = { id, name, ...this.container(stack, rate) };
    this.groups.push(group);
    const inside = { ...this.project, clips: [...this.clips], groups: [...this.groups] };
    return { of: { kind: 'group', id }, rate, frames: Math.max(1, containerFrames(inside, group)), first: 0 };
  }

  private clip(
    child: OtioObject,
    made: { of: Clip['of']; rate: Rate; frames: number; first: number },
    frames: number,
    rate: Rate,
  ): Clip {
    const own = ownOf(child);
    const base = {
      id: this.newId(),
      name: keptText(text(child.name).trim()) || 'Clip',
      of: made.of,
      length: lengthModes.find((mode): mode is LengthMode => mode === own.length) ?? this.project.defaults.length,
      ...((own.muted === true || child.enabled === false) && { muted: true }),
    };
    if (typeof own.id === 'string') this.clipIds.set(own.id, base.id);
    const { id: _id, pieces: _pieces, muted: _muted, length: _length, ...settings } = own;
    const kept = checkClip({ ...base, ...settings });
    if (kept.ok) return kept.value;
    const { timing, shown } = own;
    const bare = checkClip({ ...base, timing, shown });
    if (bare.ok) {
      this.notes.push(`Settings of ${base.name} were left out: they come from another version.`);
      return bare.value;
    }
    const speed = speedOf(child, this.notes);
    const passed = rateRatio(made.rate, rate) * speed;
    const range = isObject(child.source_range) ? child.source_range : undefined;
    const start = (seconds(range?.start_time) ?? 0) * rateToNumber(made.rate) - made.first;
    // As much of the source as there is before and after becomes hidden handles.
    const room = (travel: number): number =>
      passed === 0 ? 0 : Math.max(0, Math.floor(travel / Math.abs(passed) + 1e-6));
    const end = start + frames * passed;
    const [head, tail] =
      passed < 0 ? [room(made.frames - 1 - start), room(end + 1)] : [room(start), room(made.frames - end)];
    const length = head + frames + tail;
    return {
      ...base,
      timing: { start: start - head * passed, spans: [constantSpan(speed, length)] },
      shown: { from: head, frames },
    };
  }
}

function speedOf(child: OtioObject, notes: string[]): number {
  let speed = 1;
  for (const effect of list(child.effects).filter(isObject)) {
    const kind = schemaOf(effect);
    if (kind === 'FreezeFrame') speed = 0;
    else if (kind === 'LinearTimeWarp' && Number.isFinite(Number(effect.time_scalar)))
      speed *= Number(effect.time_scalar);
    else
      notes.push(
        `The effect ${text(effect.effect_name) || kind || 'unnamed'} of ${text(child.name) || 'a clip'} was left out.`,
      );
  }
  return speed;
}

const baseName = (address: string): string => {
  const last = address.split(/[/\\]/).at(-1) ?? '';
  try {
    return decodeURIComponent(last);
  } catch {
    return last;
  }
};
