import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { LoudnessMeter, type Loudness } from '../..';

// The compiled half of the package, which its other half imports; filled once it is there.
const mockCompiled: Record<string, unknown> = { __esModule: true };
jest.mock('ebur128-wasm/ebur128_wasm_bg.wasm', () => mockCompiled);

const { sin, PI, max } = Math;
const RATE = 48_000;

/** A tone in one or more stretches of a level (decibels below full scale) and a length (seconds). */
function tone(
  stretches: readonly (readonly [decibels: number, seconds: number])[],
  rate = RATE,
  hertz = 1000,
): Float32Array {
  const counts = stretches.map(([, seconds]) => Math.round(seconds * rate));
  const out = new Float32Array(counts.reduce((sum, count) => sum + count, 0));
  let at = 0;
  stretches.forEach(([decibels], index) => {
    const level = 10 ** (decibels / 20);
    for (const end = at + counts[index]!; at < end; at++) out[at] = level * sin((2 * PI * hertz * at) / rate);
  });
  return out;
}

function measured(left: Float32Array, right = left, rate = RATE): Loudness {
  const meter = new LoudnessMeter(rate, 2);
  // In pieces of an odd size, as they come.
  for (let at = 0; at < left.length; at += 7777)
    meter.add([left.subarray(at, at + 7777), right.subarray(at, at + 7777)]);
  return meter.loudness;
}

describe('loudness', () => {
  // EBU Tech 3341 (version 4), table 1, cases 1 to 5 and 9; levels and tolerances from memory. Cases 7 and 8 are
  // recordings that are not shipped.
  it.each([
    [1, [[-23, 20]], -23],
    [2, [[-33, 20]], -33],
    [
      3,
      [
        [-36, 10],
        [-23, 60],
        [-36, 10],
      ],
      -23,
    ],
    [
      4,
      [
        [-72, 10],
        [-36, 10],
        [-23, 60],
        [-36, 10],
        [-72, 10],
      ],
      -23,
    ],
    [
      5,
      [
        [-26, 20],
        [-20, 20.1],
        [-26, 20],
      ],
      -23,
    ],
  ] as const)('is that of Tech 3341, case %d, within 0.1 LU', (_case, stretches, expected) => {
    expect(Math.abs(measured(tone(stretches)).integrated - expected)).toBeLessThan(0.1);
  });

  it('of five channels is that of Tech 3341, case 6, within 0.1 LU; low effects do not count', () => {
    const levels = [-28, -28, -24, -30, -30];
    const channels = levels.map((level) => tone([[level, 20]]));
    const five = new LoudnessMeter(48_000, 5);
    five.add(channels);
    expect(Math.abs(five.loudness.integrated + 23)).toBeLessThan(0.1);
    const six = new LoudnessMeter(48_000, 6);
    six.add([...channels.slice(0, 3), tone([[-3, 20]]), ...channels.slice(3)]);
    expect(six.loudness.integrated).toBeCloseTo(five.loudness.integrated, 9);
  });

  it.each([44_100, 96_000])('is the same at %d samples a second', (rate) => {
    const samples = tone([[-23, 10]], rate);
    expect(Math.abs(measured(samples, samples, rate).integrated + 23)).toBeLessThan(0.1);
  });

  it('of 3 s is that of Tech 3341, case 9, within 0.1 LU at any moment after them', () => {
    const samples = tone(
      Array.from(
        { length: 5 },
        () =>
          [
            [-20, 1.34],
            [-30, 1.66],
          ] as const,
      ).flat(),
    );
    const meter = new LoudnessMeter(RATE, 2);
    for (let at = 0; at < samples.length; at += RATE / 10) {
      const piece = samples.subarray(at, at + RATE / 10);
      meter.add([piece, piece]);
      if (at >= 3 * RATE) expect(Math.abs(meter.shortTerm + 23)).toBeLessThan(0.1);
    }
  });

  // EBU Tech 3342, table 1, cases 1 to 4; from memory, tolerance 1 LU.
  it.each([
    [
      [
        [-20, 20],
        [-30, 20],
      ],
      10,
    ],
    [
      [
        [-20, 20],
        [-15, 20],
      ],
      5,
    ],
    [
      [
        [-40, 20],
        [-20, 20],
      ],
      20,
    ],
    [
      [
        [-50, 20],
        [-35, 20],
        [-20, 20],
        [-35, 20],
        [-50, 20],
      ],
      15,
    ],
  ] as const)('has the range of Tech 3342: %j', (stretches, range) => {
    expect(Math.abs(measured(tone(stretches)).range - range)).toBeLessThan(1);
  });

  // EBU Tech 3341, cases 15 to 19: +0.2, −0.4 dB; from memory. Tones whose peaks lie between samples.
  it.each([
    [4, 0, 0.5, -6],
    [4, 45, 0.5, -6],
    [6, 60, 0.5, -6],
    [8, 67.5, 0.5, -6],
    [4, 45, 1.41, 3],
  ])('has the true peak of a tone of fs/%d at %d°, level %d', (part, degrees, level, expected) => {
    const samples = Float32Array.from(
      { length: RATE },
      (_, n) => level * sin((2 * PI * n) / part + (degrees * PI) / 180),
    );
    // Faded in and out, so that it is the tone that is measured and not its edges.
    for (let n = 0; n < 4800; n++) for (const at of [n, RATE - 1 - n]) samples[at]! *= n / 4800;
    const { truePeak } = measured(samples);
    expect(truePeak).toBeGreaterThan(expected - 0.4);
    expect(truePeak).toBeLessThan(expected + 0.2);
  });

  it('is −Infinity of silence, and of less than 0.4 s', () => {
    expect(measured(new Float32Array(RATE))).toMatchObject({ integrated: -Infinity, range: 0, truePeak: -Infinity });
    expect(measured(tone([[-20, 0.3]])).integrated).toBe(-Infinity);
  });

  // The Rust crate ebur128, compiled (package `ebur128-wasm`): another's meter on the same sound.
  it('is what an independent meter measures, of music that rises and falls', async () => {
    const bindings = jest.requireActual<WebAssembly.ModuleImports>('ebur128-wasm/ebur128_wasm_bg.js');
    const folder = dirname(require.resolve('ebur128-wasm/package.json'));
    const { instance } = await WebAssembly.instantiate(readFileSync(join(folder, 'ebur128_wasm_bg.wasm')), {
      './ebur128_wasm_bg.js': bindings,
    });
    Object.assign(mockCompiled, instance.exports);
    const call = (name: string, ...given: unknown[]): number | Float64Array =>
      (bindings[name] as (...args: unknown[]) => number | Float64Array)(...given);
    const count = 12 * RATE;
    const make = (side: number): Float32Array => {
      const out = new Float32Array(count);
      for (let n = 0; n < count; n++) {
        const swell = 0.05 + 0.3 * max(0, sin((2 * PI * n) / (3 * RATE) + side));
        out[n] = swell * (sin(n * 0.021) + 0.5 * sin(n * 0.27 + side) + 0.2 * sin(n * n * 1e-7));
      }
      return out;
    };
    const [left, right] = [make(0), make(1)];
    const { integrated, truePeak } = measured(left, right);
    expect(integrated).toBeCloseTo(call('ebur128_integrated_stereo', RATE, left, right) as number, 1);
    const most = call('ebur128_true_peak_stereo', RATE, left, right) as number;
    expect(Math.abs(truePeak - most)).toBeLessThan(0.2);
  });
});
