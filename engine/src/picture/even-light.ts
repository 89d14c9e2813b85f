import type { SourceFrames } from '../media/source-frames';
import type { MakerPool } from './makers/maker-pool';
import { parcelOf } from './makers/parcel';

/** Frames to either side that a frame's light is compared with. */
const WINDOW = 8;
/** Light is made so many times more or less at most: more than that is no flicker. */
const MOST_GAIN = 1.8;

/**
 * By how much each frame's light must be more to be that of the frames around it: the nearer one is, the more it counts, so that
 * light that really changes passes.
 *
 * @param lights of the frames before, of this one and of those after, in order; undefined where there is none
 */
export function evenGain(lights: readonly (number | undefined)[]): number {
  const middle = (lights.length - 1) / 2;
  const own = lights[middle];
  if (!own) return 1;
  let [sum, weights] = [0, 0];
  lights.forEach((light, index) => {
    if (light === undefined) return;
    // At an end as many count on one side as on the other: else what changes evenly would be held back there.
    if (lights[2 * middle - index] === undefined) return;
    const weight = middle + 1 - Math.abs(index - middle);
    sum += weight * light;
    weights += weight;
  });
  return Math.min(MOST_GAIN, Math.max(1 / MOST_GAIN, sum / weights / own));
}

/** The light of frames, each looked at once. */
export class EvenLight {
  private known = new WeakMap<SourceFrames, Map<number, Promise<number>>>();

  constructor(private readonly makers: MakerPool) {}

  /** Lets go of what is known: frames may show something else now. */
  forget(): void {
    this.known = new WeakMap();
  }

  /**
   * By how much a frame's light must be more so that it does not flicker.
   *
   * @param step frames from one that is looked at to the next
   * @param standsFor the frame that is taken in the place of each
   * @throws what the decoder throws
   */
  async gainAt(
    frames: SourceFrames,
    frame: number,
    step: number,
    standsFor: (frame: number) => number,
    signal?: AbortSignal,
  ): Promise<number> {
    const lights: (number | undefined)[] = [];
    for (let place = -WINDOW; place <= WINDOW; place++) {
      const at = frame + place * step;
      const there = at >= 0 && at < frames.frames;
      lights.push(there ? await this.lightAt(frames, standsFor(at), signal) : undefined);
    }
    return evenGain(lights);
  }

  private lightAt(frames: SourceFrames, frame: number, signal?: AbortSignal): Promise<number> {
    const known = this.known.get(frames) ?? new Map<number, Promise<number>>();
    this.known.set(frames, known);
    let light = known.get(frame);
    if (!light) {
      light = this.look(frames, frame, signal);
      known.set(frame, light);
      // What was taken back is looked at when it is wanted again.
      light.catch(() => known.delete(frame));
    }
    return light;
  }

  private async look(frames: SourceFrames, frame: number, signal?: AbortSignal): Promise<number> {
    const sample = await frames.get(frame, signal);
    try {
      return await this.makers.with((makes) => makes.light(parcelOf(sample)));
    } finally {
      sample.close();
    }
  }
}
