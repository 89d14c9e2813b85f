import { primariesOf625, toPrimariesOf625 } from './primaries';

it('leads from BT.709 to BT.601 of 625 lines as ITU-R BT.2087 and CSS Color 4 build such matrices: white stays, red and blue too', () => {
  const matrix = primariesOf625();
  for (const row of matrix) expect(row[0] + row[1] + row[2]).toBeCloseTo(1, 12);
  // Only green lies elsewhere: x 0.29 in place of 0.30. By hand, from the chromaticities.
  expect(matrix[0][0]).toBeCloseTo(0.9578, 3);
  expect(matrix[0][1]).toBeCloseTo(0.0422, 3);
  expect(matrix[1]).toEqual([expect.closeTo(0, 9), expect.closeTo(1, 9), expect.closeTo(0, 9)]);
  expect(matrix[2][1]).toBeCloseTo(-0.0119, 3);
});

it('leaves greys as they are, and what cannot be shown at its edge', () => {
  const pixels = Uint8Array.from([0, 0, 0, 255, 128, 128, 128, 255, 255, 255, 255, 255, 255, 0, 0, 255]);
  const before = pixels.slice();
  toPrimariesOf625(pixels);
  expect(pixels.subarray(0, 12)).toEqual(before.subarray(0, 12));
  expect(pixels[12]).toBeLessThan(255);
  expect(Array.from(pixels.subarray(13))).toEqual([0, 0, 255]);
});
