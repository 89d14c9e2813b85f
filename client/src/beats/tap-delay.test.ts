import { keepTapDelay, measuredDelay, tapDelay } from './tap-delay';

const clicks = [0, 600, 1200, 1800, 2400, 3000, 3600, 4200];

it('is that of most taps, whatever one of them did', () => {
  expect(measuredDelay([82, 678, 1284, 1881, 2700, 3080], clicks)).toBe(81);
  expect(measuredDelay([-40, 565, 1162, 1760], clicks)).toBeCloseTo(-38, -1);
});

it('is not known of few taps', () => {
  expect(measuredDelay([80, 680, 1280], clicks)).toBeUndefined();
  expect(measuredDelay([], clicks)).toBeUndefined();
});

it('is kept on this device', () => {
  expect(tapDelay()).toBe(0);
  keepTapDelay(74);
  expect(tapDelay()).toBe(74);
  localStorage.setItem('hastig:tap-delay', 'nonsense');
  expect(tapDelay()).toBe(0);
});
