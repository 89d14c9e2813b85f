import { onsetBands, type OnsetEnvelope } from './envelope';
import { mean } from './mean';

// Looked up once: the loops below run for every value of an envelope.
const { ceil, max, min, sqrt } = Math;

/** Cells each beat is cut into. */
const CELLS = 8;

const roots = new WeakMap<Float32Array, number>();

function rootMeanSquare(values: Float32Array): number {
  let root = roots.get(values);
  if (root === undefined) {
    root = sqrt(mean(values.map((value) => value * value)));
    roots.set(values, root);
  }
  return root;
}

/** What is heard in each beat: how suddenly it gets louder in each band and eighth, the mean taken away, at length 1. */
export function beatShapes({ bands, rate, start }: OnsetEnvelope, beats: readonly number[]): Float64Array[] {
  const scales = onsetBands.map((band) => 1 / (rootMeanSquare(bands[band]) || 1));
  return beats.slice(1).map((to, i) => {
    const from = beats[i]!;
    const shape = new Float64Array(CELLS * onsetBands.length);
    onsetBands.forEach((band, b) => {
      const values = bands[band];
      for (let cell = 0; cell < CELLS; cell++) {
        // Each cell lies around its moment, so that what is a little early on the beat is in it.
        const low = (from + ((to - from) * (cell - 0.5)) / CELLS - start) * rate;
        const high = (from + ((to - from) * (cell + 0.5)) / CELLS - start) * rate;
        let most = 0;
        for (let at = max(0, ceil(low)); at < min(values.length, high); at++) {
          if (values[at]! > most) most = values[at]!;
        }
        shape[b * CELLS + cell] = most * scales[b]!;
      }
    });
    const middle = mean(shape);
    let square = 0;
    for (let cell = 0; cell < shape.length; cell++) {
      shape[cell]! -= middle;
      square += shape[cell]! ** 2;
    }
    const length = sqrt(square);
    return length > 0 ? shape.map((value) => value / length) : shape;
  });
}

/** How alike two beats are, −1 to 1. */
export function likeness(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

/**
 * For each beat how far what comes after it is another thing than what went before: how alike the beats are on each of its sides, less
 * how alike they are across it (Foote 2000, “Automatic audio segmentation using a measure of audio novelty”). Phrases and fills
 * end where it is high.
 *
 * @param reach beats on each side
 */
export function novelty(shapes: readonly Float64Array[], reach: number): number[] {
  const near = shapes.map((shape, i) => shapes.slice(i, i + 2 * reach).map((other) => likeness(shape, other)));
  return Array.from({ length: shapes.length + 1 }, (_, beat) => {
    const [from, to] = [max(0, beat - reach), min(shapes.length, beat + reach)];
    let [sides, across, of, over] = [0, 0, 0, 0];
    for (let i = from; i < to; i++) {
      for (let j = i + 1; j < to; j++) {
        if (i < beat && j >= beat) {
          across += near[i]![j - i]!;
          over++;
        } else {
          sides += near[i]![j - i]!;
          of++;
        }
      }
    }
    return of > 0 && over > 0 ? sides / of - across / over : 0;
  });
}
