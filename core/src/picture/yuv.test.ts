import { i420Bytes, rgbaToI420, type YuvSpace } from '..';

/** The three numbers of a plane of one colour. */
function ofColour([r, g, b]: readonly number[], space: YuvSpace): number[] {
  const rgba = new Uint8Array(4 * 2 * 4).map((_, index) => [r!, g!, b!, 255][index % 4]!);
  const out = new Uint8Array(i420Bytes(4, 2));
  rgbaToI420(rgba, 4, 2, space, out);
  expect(new Set(out.subarray(0, 8)).size).toBe(1);
  return [out[0]!, out[8]!, out[10]!];
}

const narrow = { matrix: 'bt709', fullRange: false } as const;

describe('planes of a 4:2:0 picture', () => {
  // 100% colour bars in 8 bits: ITU-R BT.709-6 items 3.2 and 3.4 worked out, as handbooks list them (values from memory).
  it.each<[string, number[], number[]]>([
    ['white', [255, 255, 255], [235, 128, 128]],
    ['yellow', [255, 255, 0], [219, 16, 138]],
    ['cyan', [0, 255, 255], [188, 154, 16]],
    ['green', [0, 255, 0], [173, 42, 26]],
    ['magenta', [255, 0, 255], [78, 214, 230]],
    ['red', [255, 0, 0], [63, 102, 240]],
    ['blue', [0, 0, 255], [32, 240, 118]],
    ['black', [0, 0, 0], [16, 128, 128]],
  ])('%s bar, BT.709', (_name, colour, expected) => {
    expect(ofColour(colour, narrow)).toEqual(expected);
  });

  // ITU-R BT.601-7, 2.5.1 to 2.5.3; the 100% bars as handbooks list them (values from memory).
  it.each<[string, number[], number[]]>([
    ['white', [255, 255, 255], [235, 128, 128]],
    ['yellow', [255, 255, 0], [210, 16, 146]],
    ['red', [255, 0, 0], [81, 90, 240]],
    ['blue', [0, 0, 255], [41, 240, 110]],
  ])('%s bar, BT.601', (_name, colour, expected) => {
    expect(ofColour(colour, { matrix: 'bt601', fullRange: false })).toEqual(expected);
  });

  // The file format JFIF 1.02 writes BT.601 in full range; its equations.
  it('uses all numbers in full range', () => {
    const space = { matrix: 'bt601', fullRange: true } as const;
    expect(ofColour([255, 255, 255], space)).toEqual([255, 128, 128]);
    expect(ofColour([0, 0, 0], space)).toEqual([0, 128, 128]);
    expect(ofColour([255, 0, 0], space)).toEqual([76, 85, 255]);
    expect(ofColour([0, 0, 255], space)).toEqual([29, 255, 107]);
  });

  it('leaves every grey grey', () => {
    for (const matrix of ['bt709', 'bt601'] as const)
      for (let grey = 0; grey <= 255; grey++)
        expect(ofColour([grey, grey, grey], { matrix, fullRange: true })).toEqual([grey, 128, 128]);
  });

  it('takes the mean of four pixels’ colours and keeps each one’s luma', () => {
    const rgba = new Uint8Array([252, 252, 252, 255, 0, 0, 0, 255, 252, 0, 0, 255, 0, 0, 252, 255]);
    const out = new Uint8Array(i420Bytes(2, 2));
    rgbaToI420(rgba, 2, 2, narrow, out);
    const mean = ofColour([126, 63, 126], narrow);
    const lumas = [
      [252, 252, 252],
      [0, 0, 0],
      [252, 0, 0],
      [0, 0, 252],
    ].map((one) => ofColour(one, narrow)[0]);
    expect([...out.subarray(0, 4)]).toEqual(lumas);
    expect([out[4], out[5]]).toEqual([mean[1], mean[2]]);
  });

  it('has even sides', () => {
    expect(() => rgbaToI420(new Uint8Array(12), 3, 1, narrow, new Uint8Array(9))).toThrow(RangeError);
  });
});
