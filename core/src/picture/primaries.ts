type Matrix = readonly [
  readonly [number, number, number],
  readonly [number, number, number],
  readonly [number, number, number],
];

/** Chromaticities of red, green and blue, x and y each; white is D65 in both. */
const chromaticities = {
  /** ITU-R BT.709-6, 1.3, which sRGB shares (IEC 61966-2-1). */
  bt709: [
    [0.64, 0.33],
    [0.3, 0.6],
    [0.15, 0.06],
  ],
  /** ITU-R BT.601-7, table 3, of 625 lines; in WebCodecs `bt470bg`. */
  bt470bg: [
    [0.64, 0.33],
    [0.29, 0.6],
    [0.15, 0.06],
  ],
} as const;
const WHITE = [0.3127, 0.329] as const;

function inverse(m: Matrix): Matrix {
  const [[a, b, c], [d, e, f], [g, h, i]] = m;
  const by = 1 / (a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g));
  return [
    [(e * i - f * h) * by, (c * h - b * i) * by, (b * f - c * e) * by],
    [(f * g - d * i) * by, (a * i - c * g) * by, (c * d - a * f) * by],
    [(d * h - e * g) * by, (b * g - a * h) * by, (a * e - b * d) * by],
  ];
}

const times = (m: Matrix, v: readonly number[]): [number, number, number] =>
  m.map((row) => row[0] * v[0]! + row[1] * v[1]! + row[2] * v[2]!) as [number, number, number];

/** From linear red, green and blue to CIE XYZ (SMPTE RP 177). */
function toXyz(of: keyof typeof chromaticities): Matrix {
  const columns = chromaticities[of].map(([x, y]) => [x / y, 1, (1 - x - y) / y]);
  const bare = [0, 1, 2].map((row) => columns.map((column) => column[row]!)) as unknown as Matrix;
  const [x, y] = WHITE;
  const shares = times(inverse(bare), [x / y, 1, (1 - x - y) / y]);
  return bare.map((row) => row.map((value, column) => value * shares[column]!)) as unknown as Matrix;
}

/** From linear colours of BT.709 to those of 625 lines. */
export function primariesOf625(): Matrix {
  const back = inverse(toXyz('bt470bg'));
  const to = toXyz('bt709');
  const columns = [0, 1, 2].map((column) =>
    times(
      back,
      to.map((row) => row[column]!),
    ),
  );
  return [0, 1, 2].map((row) => columns.map((column) => column[row]!)) as unknown as Matrix;
}

/** IEC 61966-2-1: light of a value, both from 0 to 1. */
const toLight = (value: number): number => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4);
const fromLight = (light: number): number => (light <= 0.0031308 ? light * 12.92 : 1.055 * light ** (1 / 2.4) - 0.055);

/** Steps of light in which values are looked up. */
const STEPS = 8192;
let tables: { light: Float32Array; value: Uint8Array; matrix: Matrix } | undefined;

/**
 * Turns drawn pixels, which have sRGB's primaries, into those of 625 lines, in place: what is said to have them is turned back by
 * whoever shows it.
 *
 * @param rgba four bytes a pixel
 */
export function toPrimariesOf625(rgba: Uint8Array | Uint8ClampedArray): void {
  tables ??= {
    light: Float32Array.from({ length: 256 }, (_, value) => toLight(value / 255)),
    value: Uint8Array.from({ length: STEPS + 1 }, (_, step) => Math.round(fromLight(step / STEPS) * 255)),
    matrix: primariesOf625(),
  };
  const { light, value, matrix } = tables;
  const [[rr, rg, rb], [gr, gg, gb], [br, bg, bb]] = matrix;
  const valueOf = (of: number): number => value[Math.max(0, Math.min(STEPS, Math.round(of * STEPS)))]!;
  for (let at = 0; at < rgba.length; at += 4) {
    const [r, g, b] = [light[rgba[at]!]!, light[rgba[at + 1]!]!, light[rgba[at + 2]!]!];
    rgba[at] = valueOf(rr * r + rg * g + rb * b);
    rgba[at + 1] = valueOf(gr * r + gg * g + gb * b);
    rgba[at + 2] = valueOf(br * r + bg * g + bb * b);
  }
}
