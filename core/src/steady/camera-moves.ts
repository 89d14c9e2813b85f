import { CAMERA_NUMBERS, type SourceCamera } from '@hastig/contract';
import type { CameraMove } from '../camera';
import { cornersOfSize, planeIdentity, planeOfCorners, planePoint, type Size } from '../picture';

const thousandths = (value: number): number => Math.round(value * 1000) / 1000;

/** A camera's moves as they are kept: where corners go, to a thousandth of a pixel, since many are added up. */
export const keptMoves = (moves: readonly CameraMove[], size: Size): number[] =>
  moves.flatMap(({ map, confidence }) => [
    ...cornersOfSize(size).flatMap((corner) => {
      const { x, y } = planePoint(map, corner);
      return [thousandths(x - corner.x), thousandths(y - corner.y)];
    }),
    Math.round(confidence * 100) / 100,
  ]);

/** The moves of a stretch. */
export function cameraMoves({ moves }: SourceCamera, size: Size): CameraMove[] {
  const corners = cornersOfSize(size);
  return Array.from({ length: Math.floor(moves.length / CAMERA_NUMBERS) }, (_, n) => {
    const at = n * CAMERA_NUMBERS;
    const to = corners.map(({ x, y }, corner) => ({
      x: x + moves[at + 2 * corner]!,
      y: y + moves[at + 2 * corner + 1]!,
    }));
    return { map: planeOfCorners(size, to) ?? planeIdentity, confidence: moves[at + 8]! };
  });
}

const framesOf = ({ moves }: SourceCamera): number => Math.floor(moves.length / CAMERA_NUMBERS);

/** The position after the last one of a stretch. */
export const cameraEnd = (camera: SourceCamera): number => camera.from + framesOf(camera);

/** Of a stretch what lies in some positions; one position at least. */
export function partOf(camera: SourceCamera, { from, to }: { from: number; to: number }): SourceCamera {
  const last = framesOf(camera) - 1;
  const [first, end] = [from, to - 1].map((position) => Math.min(last, Math.max(0, position - camera.from)));
  if (first === 0 && end === last) return camera;
  return {
    from: camera.from + first!,
    moves: camera.moves.slice(CAMERA_NUMBERS * first!, CAMERA_NUMBERS * (end! + 1)),
  };
}

/** The stretch that tells most of some positions. */
export function cameraFor(
  cameras: readonly SourceCamera[] | undefined,
  { from, to }: { from: number; to: number },
): SourceCamera | undefined {
  const told = (camera: SourceCamera): number => Math.min(to, cameraEnd(camera)) - Math.max(from, camera.from);
  return cameras?.reduce<SourceCamera | undefined>(
    (best, camera) => (told(camera) > 0 && (!best || told(camera) > told(best)) ? camera : best),
    undefined,
  );
}

/** Stretches with one more: those it lies on or touches are joined with it, and where both tell, the new one counts. */
export function withCamera(cameras: readonly SourceCamera[] | undefined, camera: SourceCamera): SourceCamera[] {
  const joined = (cameras ?? []).reduce((made, other) => joinedWith(made, other) ?? made, camera);
  const apart = (cameras ?? []).filter((other) => joinedWith(camera, other) === undefined);
  return [...apart, joined].sort((a, b) => a.from - b.from);
}

/** A stretch and what another one tells before and after it; undefined where they lie apart. */
function joinedWith(camera: SourceCamera, other: SourceCamera): SourceCamera | undefined {
  const [end, otherEnd] = [cameraEnd(camera), cameraEnd(other)];
  // The first frame of a stretch is told nothing of: another's end is needed to go on from.
  if (other.from > end || otherEnd < camera.from) return undefined;
  const numbers = (from: number, to: number): number[] =>
    other.moves.slice(CAMERA_NUMBERS * Math.max(0, from - other.from), CAMERA_NUMBERS * Math.max(0, to - other.from));
  // What was told of its first frame by itself was that there is none before it.
  const first = otherEnd > camera.from && other.from < camera.from ? numbers(camera.from, camera.from + 1) : [];
  const own = first.length > 0 ? [...first, ...camera.moves.slice(CAMERA_NUMBERS)] : camera.moves;
  return {
    from: Math.min(camera.from, other.from),
    moves: [...numbers(other.from, camera.from), ...own, ...numbers(end, otherEnd)],
  };
}
