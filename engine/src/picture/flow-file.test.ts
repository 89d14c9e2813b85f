import { flowBytes, readFlow, type KeptFlow } from './flow-file';

const flow = (columns: number, rows: number, isCut = false): KeptFlow => {
  const part = (from: number): Float32Array =>
    Float32Array.from({ length: columns * rows }, (_, n) => (((n * 37 + from) % 4001) - 2000) / 64);
  return { columns, rows, isCut, parts: [part(0), part(7), part(19), part(31)] };
};

it('comes back as it was, to the step', () => {
  for (const one of [flow(1, 1), flow(5, 3, true), flow(64, 36)]) {
    const bytes = flowBytes(one);
    expect(bytes).toHaveLength(16 + 8 * one.columns * one.rows);
    expect(readFlow(bytes)).toEqual(one);
  }
});

it('that is cut short, of another kind, or nothing is none', () => {
  const bytes = flowBytes(flow(5, 3));
  expect(readFlow(bytes.slice(0, -1))).toBeUndefined();
  expect(readFlow(new Uint8Array())).toBeUndefined();
  expect(readFlow(bytes.map((byte, at) => (at === 0 ? byte + 1 : byte)))).toBeUndefined();
  // A size that would be more than there is.
  expect(readFlow(bytes.map((byte, at) => (at === 11 ? 255 : byte)))).toBeUndefined();
});
