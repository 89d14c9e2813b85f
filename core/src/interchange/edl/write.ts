import type { Clip, ProjectDocument, Rate, Source, Track } from '@hastig/contract';
import { canDropFrames, countingBase, formatTimecode, rateRatio, rateToNumber } from '../../time';
import { findSource, layoutOf, mapOf } from '../../timeline';
import { linearPieces, type LinearPiece } from '../otio/pieces';

/** Frames a second that a timecode of two digits can count, and letters of a reel's name. */
const MOST_BASE = 99;
const REEL_LETTERS = 8;
/** Decimals of a speed in frames a second. */
const SPEED_DECIMALS = 1;

/** Thrown for a project that no edit decision list can tell of; says why. */
export class EdlUnwritable extends Error {
  override readonly name = 'EdlUnwritable';
}

/** An edit decision list, and what it could not say. */
interface WrittenEdl {
  text: string;
  /** Events. */
  events: number;
  /** Greatest difference between what is played and what the list says, at a whole output frame, in source frames. */
  greatestError: number;
  /** What is left out, for people. */
  notes: string[];
}

/**
 * The lowest picture track that is on as an edit decision list after SMPTE 258M (its events as written down for the trade's first
 * computer editors; from memory): cuts, with a speed line (`M2`) for each piece that does not play at real time.
 *
 * Timecodes of sources count from 00:00:00:00 at the sequence's rate; speeds are frames a second with one decimal. A curve is cut into
 * pieces of one speed. Of a piece that plays backwards, the source's stretch is told forwards and its speed line says where it begins.
 *
 * @throws EdlUnwritable where the rate is above 99, or there is no picture
 */
export function writeEdl(project: ProjectDocument): WrittenEdl {
  const { sequence } = project;
  const { rate } = sequence;
  if (countingBase(rate) > MOST_BASE)
    throw new EdlUnwritable(
      `An EDL counts up to ${MOST_BASE} frames a second; the sequence has ${countingBase(rate)}.`,
    );
  const pictures = sequence.tracks.filter(({ kind, off }) => kind === 'picture' && !off);
  const track = pictures.find(({ items }) => items.some((item) => 'clip' in item));
  if (!track) throw new EdlUnwritable('There is no clip on a picture track.');
  const writer = new EdlWriter(project, rate);
  for (const { clip, from } of layoutOf(project, track)) if (clip) writer.clip(clip, sequence.startFrame + from);
  const others = sequence.tracks.filter((one) => one !== track && !one.off && one.items.some((item) => 'clip' in item));
  return {
    text: [`TITLE: ${plainWords(project.name)}`, `FCM: ${fcmOf(rate)}`, '', ...writer.lines, ''].join('\n'),
    ...{ events: writer.events, greatestError: writer.greatestError },
    notes: [...(others.length > 0 ? [leftOut(others)] : []), ...writer.notes],
  };
}

const fcmOf = (rate: Rate): string => (canDropFrames(rate) ? 'DROP FRAME' : 'NON-DROP FRAME');

const leftOut = (tracks: readonly Track[]): string =>
  `An EDL has one picture track: ${tracks.map(({ name }) => `“${name}”`).join(', ')} ${tracks.length === 1 ? 'is' : 'are'} left out.`;

/** Words on one line, as a list may have them. */
const plainWords = (text: string): string => text.replace(/\s+/g, ' ').trim();

class EdlWriter {
  readonly lines: string[] = [];
  readonly notes: string[] = [];
  events = 0;
  greatestError = 0;
  private readonly reels = new Map<string, string>();
  private readonly taken = new Set<string>();
  /** How many reels begin with the same letters. */
  private readonly alike = new Map<string, number>();

  constructor(
    private readonly project: ProjectDocument,
    private readonly rate: Rate,
  ) {}

  /** @param at its first frame, as the record counts */
  clip(clip: Clip, at: number): void {
    const { project } = this;
    const source = clip.of.kind === 'source' ? findSource(project, clip.of.id) : undefined;
    if (!source) this.notes.push(`The group “${clip.name}” is one event: what is in it is not told.`);
    const map = mapOf(project, clip);
    const { pieces, greatestError } = linearPieces(map, clip.shown);
    const channel = source?.facts.audio && !clip.muted ? 'B' : 'V';
    const name = source?.name ?? clip.name;
    const ratio = rateRatio(map.sourceRate, this.rate);
    pieces.forEach((piece, index) => {
      const place = at + piece.from - clip.shown.from;
      const error = this.event(this.reelOf(clip, source), channel, piece, { place, ratio });
      this.greatestError = Math.max(this.greatestError, error + greatestError);
      this.lines.push(`* FROM CLIP NAME: ${plainWords(name)}`);
      if (pieces.length > 1) this.lines.push(`* PIECE ${index + 1} OF ${pieces.length}`);
      this.lines.push('');
    });
  }

  /** @returns by how much what is played differs from what is told, at most, in source frames */
  private event(reel: string, channel: string, piece: LinearPiece, on: { place: number; ratio: number }): number {
    const { frames, source, speed } = piece;
    const { place, ratio } = on;
    const fps = rateToNumber(this.rate);
    const told = Number((speed * fps).toFixed(SPEED_DECIMALS)) / fps;
    const real = Math.abs(told - 1) * fps < 0.05;
    // In frames of the list: where it begins to play, and the last place that is played.
    const start = Math.max(0, Math.floor(source / ratio + 1e-6));
    const last = Math.max(0, Math.floor(start + (real ? 1 : told) * (frames - 1) + 1e-6));
    const [low, high] = [Math.min(start, last), Math.max(start, last)];
    const code = (frame: number): string => formatTimecode(frame, this.rate);
    const number = String(++this.events).padStart(3, '0');
    const times = [code(low), code(high + 1), code(place), code(place + frames)].join(' ');
    this.lines.push(`${number}  ${reel.padEnd(REEL_LETTERS)} ${channel.padEnd(5)} C        ${times}`);
    if (!real)
      this.lines.push(`M2   ${reel.padEnd(REEL_LETTERS)} ${speedText(told * fps)}                ${code(start)}`);
    const off = (n: number): number => Math.abs(source + n * ratio * speed - (start + n * (real ? 1 : told)) * ratio);
    return Math.max(off(0), off(frames - 1));
  }

  /** A short name of a source, each its own: letters and digits of its name. */
  private reelOf(clip: Clip, source: Source | undefined): string {
    const id = source?.id ?? clip.of.id;
    const known = this.reels.get(id);
    if (known) return known;
    const words = (source?.name ?? clip.name)
      .replace(/\.[^.]*$/, '')
      .normalize('NFKD')
      .toUpperCase();
    const letters = words.replace(/[^A-Z0-9]/g, '').slice(0, REEL_LETTERS) || 'AX';
    let reel = letters;
    for (let n = this.alike.get(letters) ?? 2; this.taken.has(reel); n++) {
      reel = `${letters.slice(0, REEL_LETTERS - String(n).length)}${n}`;
      this.alike.set(letters, n + 1);
    }
    this.taken.add(reel);
    this.reels.set(id, reel);
    return reel;
  }
}

/** A speed in frames a second: a sign, three digits and one decimal. */
function speedText(fps: number): string {
  const digits = Math.abs(fps).toFixed(SPEED_DECIMALS).padStart(5, '0');
  return `${fps < 0 ? '-' : ' '}${digits}`;
}
