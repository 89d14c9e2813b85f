import {
  leafFrames,
  isSeenFrame,
  leavesOf,
  mainFrame,
  motionAt,
  picturePlan,
  pictureKey,
  type Program,
} from '../program';

/** What can be counted of how a program shows its footage. */
export interface ProgramNumbers {
  /** Pictures. */
  frames: number;
  /** Frames of footage that are seen in one picture only, as they are. */
  once: number;
  /** Pictures that show what the one before them shows. */
  repeated: number;
  /** Frames of footage that are passed over between two pictures, and are in neither. */
  skipped: number;
  /** Pictures made of more than one frame: blended, moved, or exposed. */
  made: number;
  /** Pictures with nothing in them. */
  empty: number;
  /** Factors of real time, below 0 backwards; undefined where nothing is seen. */
  slowest: number | undefined;
  fastest: number | undefined;
  /** Pictures for which one and the same stands, at most. */
  longestRun: number;
}

const none: ProgramNumbers = {
  ...{ frames: 0, once: 0, repeated: 0, skipped: 0, made: 0, empty: 0, longestRun: 0 },
  ...{ slowest: undefined, fastest: undefined },
};

/**
 * Counts how a program shows its footage, by what is uppermost: each `next` has counted one picture, so that a long film is gone
 * through a few milliseconds at a time.
 */
export function* countProgram(program: Program): Generator<ProgramNumbers> {
  const plan = picturePlan(program);
  let numbers = none;
  let run = 0;
  let [last, lastWasMade] = ['', false];
  let before: { sourceId: string; clipId: string; first: number; final: number } | undefined;
  for (let n = 0; n < plan.count; n++) {
    const picture = plan.at(n);
    const key = pictureKey(picture);
    const top = leavesOf(picture).at(-1);
    const same = n > 0 && key === last;
    // One that is seen once is told once the next is another one.
    const once = !same && run === 1 && last !== '' && !lastWasMade ? 1 : 0;
    run = same ? run + 1 : 1;
    const isMade = top !== undefined && (!isSeenFrame(top) || (top.share ?? 0) > 0);
    const moved = top && motionAt(program, n);
    const speed = moved?.speed;
    const frames = top ? leafFrames(top) : [];
    const [first, final] = frames.reduce(
      ([least, most], { frame }) => [Math.min(least, frame), Math.max(most, frame)],
      [Infinity, -Infinity],
    );
    const main = top && mainFrame(top);
    // From one shot to the next nothing is passed over.
    const follows = main && before?.sourceId === main.sourceId && before.clipId === main.clipId;
    const skipped = follows ? Math.max(0, first - before!.final - 1, before!.first - final - 1) : 0;
    before = main && { sourceId: main.sourceId, clipId: main.clipId, first, final };
    numbers = {
      frames: n + 1,
      once: numbers.once + once,
      repeated: numbers.repeated + (same ? 1 : 0),
      skipped: numbers.skipped + skipped,
      made: numbers.made + (isMade ? 1 : 0),
      empty: numbers.empty + (top ? 0 : 1),
      slowest: least(numbers.slowest, speed),
      fastest: most(numbers.fastest, speed),
      longestRun: Math.max(numbers.longestRun, run),
    };
    [last, lastWasMade] = [key, isMade];
    if (n === plan.count - 1 && run === 1 && key !== '' && !isMade) numbers = { ...numbers, once: numbers.once + 1 };
    yield numbers;
  }
}

const least = (a: number | undefined, b: number | undefined): number | undefined =>
  a === undefined || b === undefined ? (a ?? b) : Math.min(a, b);
const most = (a: number | undefined, b: number | undefined): number | undefined =>
  a === undefined || b === undefined ? (a ?? b) : Math.max(a, b);
