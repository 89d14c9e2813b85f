import { bitsOf } from './picture-depth';

it.each([
  // Strings of the standards' own examples and of files of this repository.
  ['avc1.64000c', 8],
  ['avc1.6e0028', 10],
  ['avc3.7a0028', 10],
  ['hvc1.1.6.L93.B0', 8],
  ['hev1.2.4.L93.B0', 10],
  ['vp09.00.10.08', 8],
  ['vp09.02.10.10.01.09.16.09.01', 10],
  ['av01.0.04M.08', 8],
  ['av01.0.04M.10', 10],
  ['vp8', 8],
  ['unknown', 8],
])('%s has %i bits', (codec, bits) => {
  expect(bitsOf(codec)).toBe(bits);
});
