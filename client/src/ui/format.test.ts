import { formatBytes } from './format';

it.each([
  [0, '0 B'],
  [999, '999 B'],
  [1000, '1.0 kB'],
  [3_440_000, '3.4 MB'],
  [123_000_000, '123 MB'],
  [2_500_000_000_000, '2.5 TB'],
])('%d bytes read %s', (bytes, text) => {
  expect(formatBytes(bytes)).toBe(text);
});
