import { moving } from '../../test/moving';
import { looksSame, mostDifferent } from '.';

/** The same picture as a coder might give it back once more: every value off by up to so much. */
function coded({ data, ...size }: ReturnType<typeof moving>, most: number) {
  let state = 5;
  const off = (): number => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) & 0x7fff_ffff;
    return (state >>> 16) % (2 * most + 1);
  };
  return { ...size, data: data.map((value) => Math.min(255, Math.max(0, value + off() - most))) };
}

it.each([
  [220, 140],
  [221, 139],
  [17, 9],
  [1, 1],
])(
  'a frame that was coded once more looks the same, one in which something small moved does not: %i × %i',
  (width, height) => {
    const one = moving(width, height, { discX: width / 2 });
    expect(looksSame(one, one)).toBe(true);
    expect(looksSame(one, coded(one, 4))).toBe(true);
    const other = { ...one, data: one.data.slice() };
    // A mark of at most eight pixels.
    for (let y = 0; y < Math.min(8, height); y++)
      for (let x = 0; x < Math.min(8, width); x++) other.data[y * width + x] = (one.data[y * width + x]! + 128) % 256;
    expect(looksSame(one, other)).toBe(false);
    if (width > 100) expect(looksSame(one, moving(width, height, { discX: width / 2, x: 3, y: 2 }))).toBe(false);
  },
);

it('the most different part is told, of 255', () => {
  const flat = (value: number) => ({ width: 64, height: 48, data: new Uint8Array(64 * 72).fill(value) });
  expect(mostDifferent(flat(20), flat(51))).toBe(31);
  const other = flat(20);
  // A quarter of a part.
  for (let y = 0; y < 8; y++) other.data.fill(120, (16 + y) * 64 + 32, (16 + y) * 64 + 40);
  expect(mostDifferent(flat(20), other)).toBe(25);
});
