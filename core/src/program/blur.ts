import { AUTO_SAMPLES, type PictureSettings } from '@hastig/contract';
import { momentsOf, openShare, type Exposure } from '../exposure';
import { pictureCorners, plainPicture, sameSettings, type Size } from '../picture';
import { NOTHING, type Layers, type Seen } from './apply-effects';
import type { SeenPicture } from './seen';

/** Something that may move in the frame while the shutter is open. */
export interface Move {
  /** How it lies so many pictures after the shutter opens; as it is where it is not told. */
  settingsAfter(after: number): PictureSettings | undefined;
  /** Its pixels. */
  size: Size | undefined;
}

/**
 * What is seen while a shutter is open: at some moments, where anything moves in the frame, else as its own exposure has it.
 *
 * @param seen by its own exposure, or as an instant
 */
export function exposedMoves(
  exposure: Exposure,
  moves: readonly Move[],
  frame: Size | undefined,
  seen: (as: 'exposed' | 'instant') => Seen,
): Layers {
  const moving = moves.filter(({ settingsAfter }) => movesWithin(settingsAfter, exposure));
  if (moving.length === 0) return seen('exposed')(0);
  const moments = Math.max(...moving.map(({ settingsAfter, size }) => momentsWithin(exposure, settingsAfter, size, frame))); // prettier-ignore
  return blurred(moments, exposure, seen('instant'));
}

/** Whether a picture lies otherwise at some moment of an exposure than when the shutter opens. */
function movesWithin(settingsAfter: (after: number) => PictureSettings | undefined, exposure: Exposure): boolean {
  const open = openShare(exposure);
  if (open === 0) return false;
  const first = settingsAfter(0);
  return [0.5, 1].some((part) => !sameSettings(first, settingsAfter(part * open)));
}

/** Pixels of the frame by which a corner moves from one moment to the next where moments follow movement. */
const CORNER_STEP = 1.5;

/** At how many moments a picture is looked at that moves in its frame: as many as are told, or as its corners' way asks for. */
function momentsWithin(
  exposure: Exposure,
  settingsAfter: (after: number) => PictureSettings | undefined,
  size: Size | undefined,
  frame: Size | undefined,
): number {
  const most = momentsOf(exposure);
  if (exposure.samples !== AUTO_SAMPLES || !size || !frame) return most;
  const places = [0, 0.25, 0.5, 0.75, 1].map((part) =>
    pictureCorners(settingsAfter(part * openShare(exposure)) ?? plainPicture, size, frame),
  );
  const ways = places[0]!.map((_, corner) =>
    places.slice(1).reduce((way, corners, index) => {
      const [a, b] = [places[index]![corner]!, corners[corner]!];
      return way + Math.hypot(b.x - a.x, b.y - a.y);
    }, 0),
  );
  return Math.min(most, Math.max(FEWEST_MOMENTS, Math.ceil(Math.max(...ways) / CORNER_STEP)));
}

/** Also where only what is seen through changes. */
const FEWEST_MOMENTS = 8;

/** The mean of what is seen at the moments of an exposure. */
function blurred(samples: number, exposure: Exposure, at: Seen): Layers {
  const moments: { layers: SeenPicture; weight: number }[] = [];
  let covers = true;
  for (let moment = 0; moment < samples; moment++) {
    const seen = at(((moment + 0.5) / samples) * openShare(exposure));
    covers &&= seen.covers;
    moments.push({ layers: seen.layers, weight: 1 / samples });
  }
  return moments.some(({ layers }) => layers.length > 0)
    ? { layers: [{ of: { moments, combine: 'sum' } }], covers }
    : NOTHING;
}
