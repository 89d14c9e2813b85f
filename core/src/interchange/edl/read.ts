import {
  checkProjectDocument,
  keptText,
  type Clip,
  type ProjectDocument,
  type Source,
  type Span,
  type TrackItem,
} from '@hastig/contract';
import { constantSpan } from '../../retime';
import { formatTimecode, rateRatio, rateToNumber, timecodeToFrame } from '../../time';
import { sourceFrames, sourceRate } from '../../timeline';
import { normalizeItems } from '../../timeline/edit/items';

/** Thrown for a file that is no edit decision list, or has nothing that could be laid; says why. */
export class EdlUnreadable extends Error {
  override readonly name = 'EdlUnreadable';
}

/** A list that was read, and what of it could not be taken over; for people. */
interface ReadEdl {
  project: ProjectDocument;
  notes: string[];
}

/** An event of a list; all times in frames of the list. */
interface EdlEvent {
  number: string;
  reel: string;
  channel: string;
  /** A cut, or what else joins it to the one before: told by a letter. */
  join: string;
  sourceIn: number;
  sourceOut: number;
  recordIn: number;
  recordOut: number;
  /** Frames a second, and where it begins to play, where a speed line says so. */
  speed?: { fps: number; start: number };
  name?: string;
  /** It is a later piece of the same clip. */
  later?: boolean;
}

const CODE = String.raw`(\d{1,2}):(\d{2}):(\d{2})[:;.](\d{2,3})`;
const EVENT = new RegExp(
  String.raw`^(\d+[A-Z]?)\s+(\S+)\s+(\S+)\s+([A-Z]\w*)\s+(?:\d+\s+)?${[CODE, CODE, CODE, CODE].join(String.raw`\s+`)}\s*$`,
);
const SPEED = new RegExp(String.raw`^M2\s+(\S+)\s+([+-]?\s*\d+(?:\.\d+)?)\s+${CODE}`);
const NAME = /^\*\s*(?:FROM CLIP NAME|FROM CLIP|SOURCE FILE)\s*:\s*(.+)$/i;
const PIECE = /^\*\s*PIECE\s+(\d+)\s+OF\s+\d+$/;
/** Frames by which a piece may begin elsewhere than the one before it ends and still go on from it. */
const GOES_ON = 1.5;

/**
 * Reads an edit decision list after SMPTE 258M onto the first picture track of a project's sequence, in place of all that is on its
 * tracks: cuts and speed lines. Sources are found by the names of clips, else by reels. Pieces of one source that go on from each other, or
 * of one clip by our own comments, become one clip.
 *
 * @param newId gives an id for each thing that is made
 * @throws EdlUnreadable with the reason
 */
export function readEdl(text: string, project: ProjectDocument, newId: () => string): ReadEdl {
  const notes: string[] = [];
  const events = eventsOf(text, project, notes);
  if (events.length === 0) throw new EdlUnreadable('This isn’t an edit decision list: it has no events.');
  const pictures = events.filter(({ channel }) => /^(V|B|AA\/V|A\d?\/V|NONE\/V)/.test(channel));
  if (pictures.length < events.length)
    notes.push(`${events.length - pictures.length} events of sound alone were left out.`);
  const laid = laidOut(pictures, project, newId, notes);
  if (laid.clips.length === 0) {
    const why = notes.slice(0, 5).join(' ');
    throw new EdlUnreadable(why ? `None of its events can be imported. ${why}` : 'It has no event with a picture.');
  }
  const track = { id: newId(), kind: 'picture' as const, name: 'Picture', items: normalizeItems(laid.items) };
  const read: ProjectDocument = {
    ...project,
    clips: laid.clips,
    groups: [],
    sequence: { ...project.sequence, tracks: [track], startFrame: laid.zero },
  };
  const checked = checkProjectDocument(read);
  if (!checked.ok) {
    const { pointer, reason } = checked.errors[0]!;
    throw new EdlUnreadable(`It exceeds a limit of projects: ${pointer} ${reason}.`);
  }
  return { project: read, notes };
}

function eventsOf(text: string, { sequence }: ProjectDocument, notes: string[]): EdlEvent[] {
  const { rate } = sequence;
  const events: EdlEvent[] = [];
  let drop = false;
  const frameOf = (parts: readonly (string | undefined)[]): number | undefined => {
    const [hours, minutes, seconds, frames] = parts.map(Number) as [number, number, number, number];
    return timecodeToFrame({ hours, minutes, seconds, frames }, rate, drop);
  };
  for (const line of text
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\r|\n/)
    .map((one) => one.trim())) {
    const last = events.at(-1);
    const fcm = /^FCM:\s*(NON-?\s*DROP|DROP)/i.exec(line);
    if (fcm) drop = !/^NON/i.test(fcm[1]!);
    const event = EVENT.exec(line);
    if (event) {
      const [, number, reel, channel, join, ...codes] = event;
      const times = [0, 4, 8, 12].map((at) => frameOf(codes.slice(at, at + 4)));
      if (times.some((time) => time === undefined)) {
        notes.push(`Event ${number} has a timecode that the sequence’s rate does not count.`);
        continue;
      }
      const [sourceIn, sourceOut, recordIn, recordOut] = times as [number, number, number, number];
      events.push({
        number: number!,
        reel: reel!,
        channel: channel!,
        join: join!,
        sourceIn,
        sourceOut,
        recordIn,
        recordOut,
      });
    }
    const speed = SPEED.exec(line);
    if (speed && last) {
      const start = frameOf(speed.slice(3));
      if (start !== undefined) last.speed = { fps: Number(speed[2]!.replace(/\s/g, '')), start };
    }
    const name = NAME.exec(line);
    if (name && last) last.name ??= name[1]!.trim();
    const piece = PIECE.exec(line);
    if (piece && last) last.later = Number(piece[1]) > 1;
  }
  return events;
}

/** Events as clips, in the order of the record, with gaps between them. */
function laidOut(
  events: readonly EdlEvent[],
  project: ProjectDocument,
  newId: () => string,
  notes: string[],
): { clips: Clip[]; items: TrackItem[]; zero: number } {
  const { rate } = project.sequence;
  const fps = rateToNumber(rate);
  const ordered = events
    .filter(({ recordIn, recordOut }) => recordOut > recordIn)
    .sort((a, b) => a.recordIn - b.recordIn);
  const zero = zeroOf(ordered[0]?.recordIn ?? 0, project.sequence);
  const clips: Clip[] = [];
  const items: TrackItem[] = [];
  let at = 0;
  let before: { source: Source; end: number; clip: Clip } | undefined;
  const missing = new Set<string>();
  const sourceFor = sourceFinder(project.sources);
  for (const event of ordered) {
    const from = event.recordIn - zero;
    const frames = event.recordOut - event.recordIn;
    if (event.join !== 'C') notes.push(`The transition of event ${event.number} was left out: it is a cut.`);
    if (/^(BL|BLACK)$/i.test(event.reel)) continue;
    const source = sourceFor(event);
    if (!source) {
      missing.add(event.name ?? event.reel);
      continue;
    }
    if (from < at) {
      notes.push(`Event ${event.number} begins before the one before it ends, and was left out.`);
      continue;
    }
    const ratio = rateRatio(sourceRate(source), rate);
    const speed = event.speed ? event.speed.fps / fps : 1;
    const start = (event.speed?.start ?? event.sourceIn) * ratio;
    const goesOn =
      before?.source === source && from === at && (event.later || Math.abs(before.end - start) <= GOES_ON * ratio);
    const end = start + frames * ratio * speed;
    if (goesOn && before) {
      const off = start - before.end;
      extended(before.clip, { ...constantSpan(speed, frames), ...(Math.abs(off) > 1e-6 && { jump: off }) });
      before.end = end;
    } else {
      if (from > at) items.push({ gap: from - at });
      const clip = clipOf(event, source, start, constantSpan(speed, frames), project, newId);
      clips.push(clip);
      items.push({ clip: clip.id });
      before = { source, end, clip };
    }
    if (start < -1e-6 || start > sourceFrames(source))
      notes.push(`Event ${event.number} lies outside “${source.name}”.`);
    at = from + frames;
  }
  for (const name of missing) notes.push(`${name} isn’t in the footage.`);
  return { clips, items, zero };
}

/** The frame of the record at which the timeline begins: its own where the list begins in the hour after it, else the list's whole hour. */
function zeroOf(first: number, { rate, startFrame }: ProjectDocument['sequence']): number {
  const code = formatTimecode(first, rate);
  const hour = timecodeToFrame({ hours: Number(code.slice(0, 2)), minutes: 0, seconds: 0, frames: 0 }, rate, code.includes(';')); // prettier-ignore
  const lasts = Math.round(3600 * rateToNumber(rate));
  return first >= startFrame && first < startFrame + lasts ? startFrame : (hour ?? first);
}

function clipOf(
  event: EdlEvent,
  source: Source,
  start: number,
  span: Span,
  { defaults }: ProjectDocument,
  newId: () => string,
): Clip {
  return {
    id: newId(),
    name: keptText((event.name ?? source.name).replace(/\.[^.]*$/, '')) || 'Clip',
    of: { kind: 'source', id: source.id },
    length: defaults.length,
    timing: { start, spans: [span] },
    shown: { from: 0, frames: span.frames },
    ...(event.channel === 'V' && source.facts.audio && { muted: true }),
  };
}

function extended(clip: Clip, span: Span): void {
  clip.timing = { ...clip.timing, spans: [...clip.timing.spans, span] };
  clip.shown = { from: 0, frames: clip.shown.frames + span.frames };
}

/** Finds the source of an event: by the name of its clip, with or without its ending, or by its reel. A list may have many events. */
function sourceFinder(sources: readonly Source[]): (event: EdlEvent) => Source | undefined {
  const bare = (one: string): string => one.replace(/\.[^.]*$/, '').toLowerCase();
  const reelOf = (one: string): string =>
    bare(one)
      .replace(/[^a-z0-9]/g, '')
      .slice(0, 8);
  // Of several the first counts.
  const by = (key: (name: string) => string): Map<string, Source> =>
    new Map(sources.toReversed().map((source) => [key(source.name), source]));
  const [whole, bared, reels] = [by((name) => name), by(bare), by(reelOf)];
  return ({ name, reel }) =>
    (name === undefined ? undefined : (whole.get(name) ?? bared.get(bare(name)))) ?? reels.get(reel.toLowerCase());
}
