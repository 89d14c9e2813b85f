import { inOrder, MOST_PICTURES } from '../order';
import type { Shown } from '../retime';
import { openAvi, type AviReader, type AviStream } from './avi-reader';
import { VisualReader, type VisualPicture } from './visual';

/** What an AVI says of its first video. */
export interface FoundAvi {
  /** It is MPEG-4 Visual, which the framework is given by itself: it tells wrong times where pictures are stored in another order. */
  isVisual: boolean;
  /** When each picture is shown, in order. */
  times: readonly Shown[];
  /** Pictures that can be decoded at the least: at the beginning those may be missing that refer to what was cut off. */
  least: number;
  /** The framework knows these times too. */
  areKnown: boolean;
  /** Seconds at which its first sound begins; undefined where it has none. */
  soundFrom: number | undefined;
  /** Pieces of its video that only fill a place, by number. */
  fillers: ReadonlySet<number>;
}

/** What MPEG-4 Visual is called there: names of several programs that made it (common practice). */
const VISUAL = ['DIVX', 'XVID', 'DX50', 'FMP4', 'MP4V', 'MP4S', 'M4S2'];
/** What H.264 is called there; its fields may be pieces of their own, unless pieces are given times: nobody knows which belong together. */
const IN_FIELDS = ['H264', 'X264', 'AVC1', 'DAVC'];

/** A place of a video's pieces, a picture's as a rule. */
interface Place extends VisualPicture {
  /** Nothing new is shown there. */
  isStill: boolean;
}

const still: Place = { waits: true, isCoded: false, isWhole: true, isStill: true };
const picture: Place = { waits: true, isCoded: true, isWhole: true, isStill: false };

/**
 * Reads an AVI from end to end, for what it says of its first video and the pictures that are in it. A piece without anything is a
 * picture that was dropped (common practice): the one before stays. Several pictures in a piece of MPEG-4 Visual are followed by as many
 * pieces that only fill their places (common practice).
 *
 * @returns undefined for another file, or one without video
 * @throws RangeError where pictures are missing, or are too many; an aborted signal's reason
 */
export async function readAvi(path: string, signal?: AbortSignal): Promise<FoundAvi | undefined> {
  for await (const avi of openAvi(path, signal)) {
    const visual = new VisualReader();
    const [places, fillers] = [[] as Place[], new Set<number>()];
    let [count, owed] = [0, 0];
    for await (const { isEmpty, bytes } of avi.pieces()) {
      if (count === 0 && avi.video) visual.pictures(avi.video.extra);
      const found = !isVisual(avi) ? (isEmpty ? [] : [picture]) : visual.pictures(isEmpty ? Buffer.alloc(0) : await bytes()).map((one) => ({ ...one, isStill: !one.isCoded })); // prettier-ignore
      const coded = found.filter(({ isStill }) => !isStill);
      if (coded.length > 0) {
        places.push(...coded);
        owed += coded.length - 1;
      } else if (owed > 0) {
        owed--;
        fillers.add(count);
      } else places.push(found[0] ?? still);
      count++;
      if (count > MOST_PICTURES || places.length > MOST_PICTURES)
        throw new RangeError('It has more pictures than can be converted. Cut it first.');
    }
    if (!avi.video) return undefined;
    // Some count one more than they store.
    if (count < avi.video.pieces - 1)
      throw new RangeError(`The file is damaged: ${count} of its ${avi.video.pieces} pictures are there.`);
    return foundIn(avi, avi.video, places, fillers);
  }
  return undefined;
}

const isVisual = ({ video }: AviReader): boolean => VISUAL.includes(video?.coding ?? '');

function foundIn(avi: AviReader, video: AviStream, places: readonly Place[], fillers: ReadonlySet<number>): FoundAvi {
  const { scale, rate, start, coding } = video;
  const at = (place: number): number => ((start + place) * scale) / rate;
  const shown = inOrder(places).flatMap(({ isStill }, place) => (isStill ? [] : [place]));
  const times = shown.map((place, n) => ({ from: at(place), seconds: at(shown[n + 1] ?? places.length) - at(place) }));
  const { sound } = avi;
  const soundFrom = sound && (sound.rate > 0 ? (sound.start * sound.scale) / sound.rate : 0);
  const isKnown = !isVisual(avi) && shown.length === places.length && start === 0 && (soundFrom ?? 0) === 0;
  const whole = places.filter(({ isStill, isWhole }) => !isStill && isWhole).length;
  return { isVisual: isVisual(avi), times, least: isKnown && IN_FIELDS.includes(coding) ? Math.ceil(shown.length / 2) : whole, areKnown: isKnown, soundFrom, fillers }; // prettier-ignore
}

/** The first video of an AVI by itself, in pieces. */
export async function* videoInAvi(path: string, { fillers }: FoundAvi, signal?: AbortSignal): AsyncGenerator<Buffer> {
  for await (const avi of openAvi(path, signal)) {
    let count = 0;
    for await (const { isEmpty, bytes } of avi.pieces()) {
      if (count === 0 && avi.video) yield avi.video.extra;
      if (!isEmpty && !fillers.has(count)) yield await bytes();
      count++;
    }
  }
}
