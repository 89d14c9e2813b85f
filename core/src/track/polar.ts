import { PLANES, type Region } from './region';

/** Rings around a middle, and places on each: what is there turns along them when the thing turns. */
const RINGS = 5;
const SPOKES = 20;
const PLACES = RINGS * SPOKES;
/** Of a ring's places, every so many is looked at while looking around. */
const SPARSE = 2;

/** What is seen around a place: Y, Cb, Cr at each spot, and their means on each ring. */
export interface Signature {
  values: Float32Array;
  rings: Float32Array;
}

/** Looks at what is around places of a region, at one radius. */
export class Polar {
  private readonly offsets: Int32Array;
  private readonly rings = new Float32Array(PLANES * RINGS);

  /** @param radius in units of the region */
  constructor(
    private readonly region: Region,
    private readonly radius: number,
  ) {
    this.offsets = new Int32Array(2 * PLACES);
    for (let place = 0; place < PLACES; place++) {
      const far = ((Math.floor(place / SPOKES) + 0.5) / RINGS) * radius;
      const angle = (2 * Math.PI * (place % SPOKES)) / SPOKES;
      this.offsets[2 * place] = Math.round(far * Math.cos(angle));
      this.offsets[2 * place + 1] = Math.round(far * Math.sin(angle));
    }
  }

  /** What is around a place. */
  at(x: number, y: number): Signature {
    const { columns, rows, values: seen } = this.region;
    const [values, rings] = [new Float32Array(PLANES * PLACES), new Float32Array(PLANES * RINGS)];
    for (let place = 0; place < PLACES; place++) {
      const i = Math.min(columns - 1, Math.max(0, Math.round(x) + this.offsets[2 * place]!));
      const j = Math.min(rows - 1, Math.max(0, Math.round(y) + this.offsets[2 * place + 1]!));
      const at = PLANES * (j * columns + i);
      const ring = Math.floor(place / SPOKES);
      for (let plane = 0; plane < PLANES; plane++) {
        values[PLANES * place + plane] = seen[at + plane]!;
        rings[PLANES * ring + plane]! += seen[at + plane]! / SPOKES;
      }
    }
    return { values, rings };
  }

  /** How far the rings around a place, well within the region, are from a signature's, however what it is of is turned. */
  apart(signature: Signature, x: number, y: number): number {
    const { columns, values: seen } = this.region;
    const { rings, offsets } = this;
    rings.fill(0);
    for (let place = 0; place < PLACES; place += SPARSE) {
      const at = PLANES * ((y + offsets[2 * place + 1]!) * columns + x + offsets[2 * place]!);
      const ring = PLANES * ((place / SPOKES) | 0);
      rings[ring]! += seen[at]!;
      rings[ring + 1]! += seen[at + 1]!;
      rings[ring + 2]! += seen[at + 2]!;
    }
    let sum = 0;
    for (let ring = 0, n = 0; ring < RINGS; ring++) {
      for (let plane = 0; plane < PLANES; plane++, n++) {
        const off = (rings[n]! * SPARSE) / SPOKES - signature.rings[n]!;
        // Light may change from one picture to the next: brightness counts less than colour. What is further out is more of it.
        sum += (plane === 0 ? 0.5 : 1) * (ring + 0.5) * off * off;
      }
    }
    return sum;
  }

  /** The least distance from a region's edge at which `apart` may be asked. */
  get margin(): number {
    return Math.ceil(this.radius);
  }
}

/** The turns, in radians, at which a signature looks most like another, the likest first. */
export function turnsOf(template: Signature, seen: Signature, most: number): number[] {
  const apart = Array.from({ length: SPOKES }, (_, shift) => {
    let sum = 0;
    for (let ring = 0; ring < RINGS; ring++) {
      for (let spoke = 0; spoke < SPOKES; spoke++) {
        const [a, b] = [PLANES * (ring * SPOKES + spoke), PLANES * (ring * SPOKES + ((spoke + shift) % SPOKES))];
        for (let plane = 0; plane < PLANES; plane++) {
          const off = template.values[a + plane]! - seen.values[b + plane]!;
          sum += (ring + 0.5) * off * off;
        }
      }
    }
    return sum;
  });
  return apart
    .map((sum, shift) => ({ turn: (2 * Math.PI * shift) / SPOKES, sum, shift }))
    .filter(({ sum, shift }) => sum <= apart[(shift + 1) % SPOKES]! && sum <= apart[(shift + SPOKES - 1) % SPOKES]!)
    .sort((a, b) => a.sum - b.sum)
    .slice(0, most)
    .map(({ turn }) => turn);
}
