/** Something that happens at a place of its own axis, and how plain it is (0 to 1). */
export interface Plain {
  at: number;
  strength: number;
}

/** A moment of the content put on a mark of the output, by their indices. */
export interface Pair {
  moment: number;
  mark: number;
}

export interface AssignOptions {
  /** Content that passes in a unit of output before anything is moved. */
  natural: number;
  /** Where the content begins in both, so that what leads to the first pair counts too. */
  origin: { content: number; output: number };
  /** What it costs to leave out the plainest moment, and the plainest mark, beside one octave of speed for a second. */
  skipMoment?: number;
  skipMark?: number;
  /** Units of output a second. */
  perSecond: number;
}

/** Moments, and marks, that are left out one after the other at most. */
const REACH = 12;
const SKIP_MOMENT = 0.6;
const SKIP_MARK = 0.12;

/** What a stretch costs that passes so much content in so much output: its octaves away from its natural speed, squared, by its seconds. */
function stretchCost(content: number, output: number, { natural, perSecond }: AssignOptions): number {
  if (!(output > 0) || !(content > 0)) return Infinity;
  const octaves = Math.log2(content / (natural * output));
  return octaves * octaves * (output / perSecond);
}

/** What an assignment costs as a whole: the stretches between its pairs, and all that is left out. */
export function assignmentCost(
  moments: readonly Plain[],
  marks: readonly Plain[],
  pairs: readonly Pair[],
  options: AssignOptions,
): number {
  const { skipMoment = SKIP_MOMENT, skipMark = SKIP_MARK, origin } = options;
  const [used, met] = [new Set(pairs.map(({ moment }) => moment)), new Set(pairs.map(({ mark }) => mark))];
  let cost = 0;
  moments.forEach(({ strength }, i) => (cost += used.has(i) ? 0 : skipMoment * strength));
  marks.forEach(({ strength }, i) => (cost += met.has(i) ? 0 : skipMark * strength));
  let [content, output] = [origin.content, origin.output];
  for (const { moment, mark } of pairs) {
    cost += stretchFrom(moments[moment]!.at - content, marks[mark]!.at - output, options);
    [content, output] = [moments[moment]!.at, marks[mark]!.at];
  }
  return cost;
}

// What lies right at the beginning takes no time to get to.
const stretchFrom = (content: number, output: number, options: AssignOptions): number =>
  Math.abs(content) < 1e-9 && Math.abs(output) < 1e-9 ? 0 : stretchCost(content, output, options);

/**
 * Which moments come to lie on which marks: in order, with the least change of speed; leaving out weak ones costs little. Dynamic
 * programming over the last pair, up to a dozen moments and marks being left out between two pairs.
 *
 * @param moments in order, in units of content
 * @param marks in order, in units of output
 */
export function assignMoments(moments: readonly Plain[], marks: readonly Plain[], options: AssignOptions): Pair[] {
  const { skipMoment = SKIP_MOMENT, skipMark = SKIP_MARK, origin } = options;
  const sums = (all: readonly Plain[], each: number): number[] => {
    let sum = 0;
    return [0, ...all.map(({ strength }) => (sum += each * strength))];
  };
  const [leftMoments, leftMarks] = [sums(moments, skipMoment), sums(marks, skipMark)];
  const columns = marks.length;
  const least = new Float64Array(moments.length * columns).fill(Infinity);
  const before = new Int32Array(moments.length * columns).fill(-1);
  let best = leftMoments.at(-1)! + leftMarks.at(-1)!;
  let end = -1;
  for (let i = 0; i < moments.length; i++) {
    for (let j = 0; j < columns; j++) {
      const here = i * columns + j;
      const [content, output] = [moments[i]!.at, marks[j]!.at];
      least[here] =
        leftMoments[i]! + leftMarks[j]! + stretchFrom(content - origin.content, output - origin.output, options);
      for (let k = i - 1; k >= Math.max(0, i - REACH); k--) {
        const skipped = leftMoments[i]! - leftMoments[k + 1]!;
        for (let l = j - 1; l >= Math.max(0, j - REACH); l--) {
          const there = k * columns + l;
          const far = least[there]! + skipped + leftMarks[j]! - leftMarks[l + 1]!;
          if (far >= least[here]!) continue;
          const cost = far + stretchCost(content - moments[k]!.at, output - marks[l]!.at, options);
          if (cost < least[here]!) {
            least[here] = cost;
            before[here] = there;
          }
        }
      }
      const whole = least[here]! + leftMoments.at(-1)! - leftMoments[i + 1]! + leftMarks.at(-1)! - leftMarks[j + 1]!;
      if (whole < best) {
        best = whole;
        end = here;
      }
    }
  }
  const pairs: Pair[] = [];
  for (let at = end; at >= 0; at = before[at]!) pairs.push({ moment: Math.floor(at / columns), mark: at % columns });
  return pairs.reverse();
}
