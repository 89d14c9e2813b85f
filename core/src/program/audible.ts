import type { Clip, Fade, PitchSettings, RetimeMap, SoundSettings } from '@hastig/contract';
import { compile, frameCount, positionAt, speedAt, timesAt, type CompiledMap } from '../retime';
import { fadeGain, gainInFade, gainOf, panGains, pitchSettingsAt, plainSound, soundValueAt } from '../sound';
import { rateToNumber } from '../time';
import { momentAt } from '../values';
import { itemIndexAt, type Program, type ProgramBody, type ProgramItem, type ProgramTrack } from './program';

/** A map on the way from the output to a source, with what is taken from the time before it is asked. */
export interface Link {
  item: ProgramItem;
  ready: CompiledMap;
  offset: number;
  /** Frames a second of what it lies in. */
  perSecond: number;
  /** Frames it is heard in of what it lies in, and how it takes turns there with its neighbours. */
  heard: HeardItem;
  /** Gain and pan of the track it lies on, inside a group. */
  track: { gain: number; pan: number } | null;
}

/** A source that is heard, and the way to it, the outermost link first. */
export interface AudibleSource {
  sourceId: string;
  track: number;
  links: Link[];
}

/** An item as long as it is heard: past its edges where it takes turns with a neighbour. */
interface HeardItem {
  item: ProgramItem;
  from: number;
  to: number;
  crossIn: Fade | null;
  crossOut: Fade | null;
}

const heardOfTrack = new WeakMap<ProgramTrack, HeardItem[]>();

function heardItems(track: ProgramTrack): HeardItem[] {
  let heard = heardOfTrack.get(track);
  if (!heard) {
    const { items } = track;
    const crossOf = (index: number): Fade | null => {
      const [before, item] = [items[index - 1], items[index]];
      const cross = item?.sound?.cross;
      if (!item || !before || !cross || before.from + before.frames !== item.from) return null;
      const frames = Math.min(cross.frames, 2 * before.frames, 2 * item.frames);
      return frames > 0 ? { ...cross, frames } : null;
    };
    heard = items.map((item, index) => {
      const [crossIn, crossOut] = [crossOf(index), crossOf(index + 1)];
      return {
        item,
        from: item.from - (crossIn?.frames ?? 0) / 2,
        to: item.from + item.frames + (crossOut?.frames ?? 0) / 2,
        crossIn,
        crossOut,
      };
    });
    heardOfTrack.set(track, heard);
  }
  return heard;
}

const cutsOf = new WeakMap<ProgramBody, number[]>();

/** Two cuts closer than this (frames) are one. */
export const SAME = 1e-7;

/**
 * Output times at which something else begins to be heard: edges of items, jumps inside their maps, edges of what has a pitch of
 * its own, and, through the maps of groups, the cuts inside those. Rising; the first is 0 and the last the end.
 */
export function soundCuts(program: Program, body: ProgramBody): number[] {
  const known = cutsOf.get(body);
  if (known) return known;
  const found = [0, body.length];
  for (const { item, from, to } of body.tracks.flatMap(heardItems)) {
    found.push(from, to, item.from + frameCount(item.map) - item.at);
    const add = (time: number): void => {
      const t = time - item.at + item.from;
      if (t > from && t < to) found.push(t);
    };
    const ready = compile(item.map);
    item.map.spans.forEach((span, index) => span.jump && add(ready.times[index]!));
    for (const part of item.sound?.parts ?? []) [part.from, part.to].forEach(add);
    const inner = item.of.kind === 'group' ? program.groups[item.of.id] : undefined;
    for (const cut of inner ? soundCuts(program, inner) : []) {
      for (const { from: begins, to: ends } of timesAt(item.map, cut)) [begins, ends].forEach(add);
    }
  }
  const rising = found.filter((t) => t >= 0 && t <= body.length).sort((a, b) => a - b);
  const single = rising.filter((t, index) => index === 0 || t - rising[index - 1]! > SAME);
  cutsOf.set(body, single);
  return single;
}

// The item that lies there, and a neighbour that takes turns with it.
function heardAt(track: ProgramTrack, t: number): HeardItem[] {
  const heard = heardItems(track);
  const index = itemIndexAt(track, t);
  // Where nothing lies, an item may still be heard past its edge: none does, since turns are taken only at cuts.
  if (index < 0) return [];
  const found: HeardItem[] = [];
  for (let one = Math.max(0, index - 1); one <= index + 1 && one < heard.length; one++) {
    const item = heard[one]!;
    if (t >= item.from && t < item.to) found.push(item);
  }
  return found;
}

/** The sources that are heard at an output time of a body. */
export function audibleAt(program: Program, body: ProgramBody, t: number, inside = false): AudibleSource[] {
  const solo = body.tracks.some(({ sound }) => sound?.solo);
  return body.tracks.flatMap((track, index) => {
    const { sound } = track;
    if (sound?.muted || (solo && !sound?.solo)) return [];
    const level = inside && sound ? { gain: sound.gain, pan: sound.pan } : null;
    return heardAt(track, t).flatMap((heard) =>
      heard.item.heard ? sourcesAt(program, body, heard, t, level).map((one) => ({ ...one, track: index })) : [],
    );
  });
}

function sourcesAt(
  program: Program,
  body: ProgramBody,
  heard: HeardItem,
  t: number,
  track: Link['track'],
): AudibleSource[] {
  const { item } = heard;
  const link: Link = {
    item,
    heard,
    track,
    ready: compile(item.map),
    offset: item.from - item.at,
    perSecond: rateToNumber(body.rate),
  };
  const time = t - link.offset;
  if (time < 0 || time >= link.ready.length) return [];
  if (item.of.kind === 'source') return [{ sourceId: item.of.id, track: 0, links: [link] }];
  const inner = program.groups[item.of.id];
  const position = positionAt(link.ready, time);
  // Where a group is held at its edge it is silent, as a source is.
  if (!inner || position < 0 || position >= inner.length) return [];
  return audibleAt(program, inner, position, true).map((one) => ({ ...one, links: [link, ...one.links] }));
}

/** The source position that links lead to from an output time. */
export function through(links: readonly Link[], t: number): number {
  return links.reduce((time, { ready, offset }) => positionAt(ready, time - offset), t);
}

/** Source frames per output frame: the product of what each map passes. */
export function passing(links: readonly Link[], t: number): number {
  let time = t;
  let rate = 1;
  for (const { ready, offset } of links) {
    rate *= ready.ratio * speedAt(ready, time - offset);
    time = positionAt(ready, time - offset);
  }
  return rate;
}

/** What is decided about the pitch of each link, at a moment. */
export function pitchesAt(links: readonly Link[], t: number): (PitchSettings & Pick<SoundSettings, 'freeze'>)[] {
  let time = t;
  return links.map(({ item, ready, offset }) => {
    const own = time - offset;
    time = positionAt(ready, own);
    const settings = item.sound ?? plainSound;
    return { ...pitchSettingsAt(settings, own), freeze: settings.freeze };
  });
}

/** Below this speed a pitch that follows falls no further: what is so slow is not heard as tone. */
const SLOWEST_PITCH = 1 / 64;

/**
 * The factor by which all is heard higher than in the file: what each link's speed makes of it where its pitch follows, and its
 * shift.
 *
 * @param pictureRate the file's own frames per second
 */
export function pitchThrough(links: readonly Link[], t: number, pictureRate: number): number {
  let time = t;
  let factor = 1;
  links.forEach(({ item, ready, offset, perSecond }, index) => {
    const own = time - offset;
    const position = positionAt(ready, own);
    const settings = item.sound ?? plainSound;
    const { pitch, cents } = pitchSettingsAt(settings, own);
    const shift = settings.keys?.cents ? soundValueAt(settings, 'cents', { output: own, source: position }) : cents;
    factor *= 2 ** (shift / 1200);
    if (pitch === 'follows') {
      const perSecondInside = links[index + 1]?.perSecond ?? pictureRate;
      factor *= Math.abs((ready.ratio * speedAt(ready, own) * perSecond) / perSecondInside);
    }
    time = position;
  });
  return Math.max(factor, SLOWEST_PITCH);
}

/** Whether links change the level at all. */
export const isLevelled = (links: readonly Link[]): boolean =>
  links.some(({ item: { sound }, heard, track }) => {
    if (track && (track.gain !== 0 || track.pan !== 0)) return true;
    if (heard.crossIn || heard.crossOut) return true;
    if (!sound) return false;
    const { gain, pan, keys, fadeIn, fadeOut } = sound;
    return gain !== 0 || pan !== 0 || keys?.gain || keys?.pan || fadeIn || fadeOut;
  });

// A fade, seen from its beginning at `from`.
const rising = ({ frames, shape }: Fade, from: number, t: number): number =>
  frames > 0 ? fadeGain(shape, (t - from) / frames) : 1;

/** The factors of left and right that links put on what is heard. */
export function gainsThrough(links: readonly Link[], t: number): [left: number, right: number] {
  let time = t;
  let [left, right] = [1, 1];
  const put = (factor: number, pan: number): void => {
    const [toLeft, toRight] = panGains(pan);
    left *= factor * toLeft;
    right *= factor * toRight;
  };
  for (const { item, ready, offset, heard, track } of links) {
    const own = time - offset;
    const moment = { output: own, source: positionAt(ready, own) };
    const { sound } = item;
    const { from, frames } = item.faded ?? item;
    if (track) put(gainOf(track.gain), track.pan);
    if (sound) {
      let factor = gainOf(soundValueAt(sound, 'gain', moment));
      const { fadeIn, fadeOut } = sound;
      if (fadeIn) factor *= gainInFade(fadeIn, time - from, frames);
      if (fadeOut) factor *= gainInFade(fadeOut, from + frames - time, frames);
      put(factor, soundValueAt(sound, 'pan', moment));
    }
    const { crossIn, crossOut } = heard;
    if (crossIn) put(rising(crossIn, heard.from, time), 0);
    if (crossOut) put(rising(crossOut, -heard.to, -time), 0);
    time = moment.source;
  }
  return [left, right];
}

/** How much of a clip is heard at an output time of its map, beside how loud its source is: its gain and its fades. */
export function clipGainAt(
  { sound, shown, muted }: Pick<Clip, 'sound' | 'shown' | 'muted'>,
  map: RetimeMap,
  output: number,
): number {
  if (muted) return 0;
  if (!sound) return 1;
  const moment = momentAt(map, output);
  const { fadeIn, fadeOut } = sound;
  const { from, frames } = shown;
  let factor = gainOf(soundValueAt(sound, 'gain', moment));
  if (fadeIn) factor *= gainInFade(fadeIn, output - from, frames);
  if (fadeOut) factor *= gainInFade(fadeOut, from + frames - output, frames);
  return factor;
}
