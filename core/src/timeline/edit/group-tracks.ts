import type { Container, ProjectDocument, Track, TrackSound } from '@hastig/contract';
import { EditRefused } from '../../retime';
import { plainTrackSound } from '../../sound';
import { layoutOf } from '../layout';

/** Decibels that a track's gain can be. */
const GAINS = { least: -96, most: 24 };

const refuse = (words: string): never => {
  throw new EditRefused('clips', words);
};

const soundOfTrack = (track: Track): TrackSound => track.sound ?? plainTrackSound;

/** Whether a track is heard where it lies: switched on, not muted, and not silent beside others that are solo. */
function isHeard({ tracks }: Container, track: Track): boolean {
  const { muted, solo } = soundOfTrack(track);
  return !track.off && !muted && (solo === true || !tracks.some((other) => !other.off && other.sound?.solo));
}

const sameDuck = (a: TrackSound, b: TrackSound): boolean => JSON.stringify(a.duck) === JSON.stringify(b.duck);

/** A track as it is inside a group, and the one the group lies on: together they sound as the track did. */
interface Regrouped {
  home: Track;
  /** By the tracks' ids. */
  inside: ReadonlyMap<string, Track>;
}

/**
 * The track that a group of clips of some tracks comes to lie on, and those tracks as they are inside it, so that all is seen and heard
 * as before.
 *
 * @param tracks some of the container's, from the lowest up
 * @throws EditRefused where no track can carry what they have in common
 */
export function regrouped(container: Container, tracks: readonly Track[]): Regrouped {
  const kind = tracks.some((track) => track.kind === 'picture') ? 'picture' : 'sound';
  const homes = tracks.filter((track) => track.kind === kind);
  const heard = tracks.filter((track) => isHeard(container, track));
  const seen = tracks.filter((track) => !track.off);
  const home = homes.find((track) => heard.includes(track)) ?? homes.find((track) => seen.includes(track)) ?? homes[0]!;
  if (seen.length > 0 && home.off)
    refuse(`Track “${home.name}” is off, and the group would lie on it. Switch it on first, or leave its clips out.`);
  if (heard.length > 0 && !heard.includes(home))
    refuse(`Track “${home.name}” is silent, and the group would lie on it. Unmute it first, or leave its clips out.`);
  const own = soundOfTrack(home);
  for (const track of heard) {
    const sound = soundOfTrack(track);
    if (!sameDuck(sound, own))
      refuse(
        `“${track.name}” and “${home.name}” duck differently, and a group is ducked as one. Make them alike first.`,
      );
    if (track !== home && container.tracks.some((other) => other.sound?.duck?.under === track.id))
      refuse(
        `Another track ducks under “${track.name}”, whose clips would lie on “${home.name}”. Remove the ducking first.`,
      );
    if (own.pan !== 0 && sound.pan !== own.pan)
      refuse(
        `“${track.name}” and “${home.name}” are panned differently, and a group is panned as one. Make them alike first.`,
      );
  }
  const inside = new Map(
    tracks.map((track): [string, Track] => {
      const { off, sound: _sound, ...plain } = track;
      const sound = soundOfTrack(track);
      const gain = sound.gain - own.gain;
      const pan = own.pan === 0 ? sound.pan : 0;
      const muted = heard.includes(home) && !heard.includes(track) && !off;
      if (!(gain >= GAINS.least && gain <= GAINS.most))
        refuse(`The gains of “${track.name}” and “${home.name}” are too far apart for one group.`);
      const relative: TrackSound = { gain, pan, ...(muted && { muted }) };
      const changes = gain !== 0 || pan !== 0 || muted;
      return [track.id, { ...plain, ...(off && !home.off && { off }), ...(changes && { sound: relative }) }];
    }),
  );
  return { home, inside };
}

/**
 * Refuses to group clips that pictures lie between which stay outside: they would come to lie above or below what they were between.
 *
 * @param chosen ids of the clips
 * @param homeIndex the track that the group will lie on
 */
export function refuseBetween(
  project: ProjectDocument,
  { tracks }: Container,
  chosen: ReadonlySet<string>,
  homeIndex: number,
): void {
  tracks.forEach((track, index) => {
    if (track.kind !== 'picture' || track.off) return;
    const mine = layoutOf(project, track).filter(({ clip }) => clip && chosen.has(clip.id));
    const [low, high] = [Math.min(index, homeIndex), Math.max(index, homeIndex)];
    for (const between of tracks.slice(low + 1, high)) {
      if (between.kind !== 'picture' || between.off) continue;
      for (const { clip, from, to } of layoutOf(project, between)) {
        if (!clip || chosen.has(clip.id) || !mine.some((one) => one.to > from && one.from < to)) continue;
        refuse(`“${clip.name}” lies between the selected layers. Select it too, or move it.`);
      }
    }
  });
}

/** Refuses to group clips that take turns with one that stays outside: a group takes turns as one. */
export function refuseCross(project: ProjectDocument, tracks: readonly Track[], chosen: ReadonlySet<string>): void {
  for (const track of tracks) {
    let before: { id: string; name: string } | undefined;
    for (const { clip } of layoutOf(project, track)) {
      if (clip?.sound?.cross && before && chosen.has(clip.id) !== chosen.has(before.id))
        refuse(`“${before.name}” and “${clip.name}” are crossfaded. Select both, or remove the crossfade first.`);
      before = clip;
    }
  }
}

/**
 * A group's track as it is outside of it, laid where the group lay: its own settings and those of the track the group was on.
 *
 * @throws EditRefused where one track cannot have both
 */
export function ungrouped(track: Track, home: Track): Pick<Track, 'off' | 'sound'> {
  const [inner, outer] = [soundOfTrack(track), soundOfTrack(home)];
  if (inner.pan !== 0 && outer.pan !== 0)
    throw new EditRefused(
      'clip',
      `Track “${track.name}” in the group and “${home.name}” are both panned. Center one of them first.`,
    );
  if (inner.solo || inner.duck)
    throw new EditRefused(
      'clip',
      `Track “${track.name}” in the group is ${inner.solo ? 'solo' : 'ducked'}, which outside would concern other tracks. Switch that off first.`,
    );
  const gain = inner.gain + outer.gain;
  if (!(gain >= GAINS.least && gain <= GAINS.most))
    throw new EditRefused('clip', `The gains of track “${track.name}” and of the group’s track add up to too much.`);
  const sound: TrackSound = {
    ...outer,
    gain,
    pan: inner.pan || outer.pan,
    ...((inner.muted || outer.muted) && { muted: true }),
  };
  const changes = JSON.stringify(sound) !== JSON.stringify(plainTrackSound);
  return { ...((track.off || home.off) && { off: true }), ...(changes && { sound }) };
}

/** Whether tracks are seen and heard alike. */
export const alike = (a: Pick<Track, 'off' | 'sound'>, b: Pick<Track, 'off' | 'sound'>): boolean =>
  (a.off ?? false) === (b.off ?? false) &&
  JSON.stringify({ ...plainTrackSound, ...a.sound }) === JSON.stringify({ ...plainTrackSound, ...b.sound });
