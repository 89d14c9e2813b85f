import { shrinkFactor } from './shrink-factor';

it.each([
  // 1280×720 on a phone's stage of 390 px: a ninth of the bytes.
  [{ width: 1280, height: 720 }, { width: 426, height: 240 }, 3],
  [{ width: 1280, height: 720 }, { width: 1280, height: 720 }, 1],
  // Larger than it is never.
  [{ width: 640, height: 360 }, { width: 1280, height: 720 }, 1],
  [{ width: 3840, height: 2160 }, { width: 1280, height: 720 }, 3],
  // As large as it fits: the longer way decides.
  [{ width: 720, height: 1280 }, { width: 640, height: 360 }, 3],
  [{ width: 100_000, height: 100_000 }, { width: 10, height: 10 }, 16],
])('%j shown in %j is made smaller by %i', (size, fit, factor) => {
  expect(shrinkFactor(size, fit)).toBe(factor);
  expect(shrinkFactor(size, null)).toBe(1);
});
