import { defaultShare, DIVIDER, rememberedShares, rememberShares, stageLength, STRIP } from './stage-share';

const phones = [360, 500, 592, 743, 900];

it.each(phones)('on a phone with %s pixels the place has room, and the picture at least a strip', (length) => {
  for (const share of [0.001, 0.2, 0.5, 0.999, defaultShare('phone', length)]) {
    const stage = stageLength('phone', length, share);
    expect(stage).toBeGreaterThanOrEqual(STRIP);
    expect(length - stage - DIVIDER.phone).toBeGreaterThanOrEqual(150);
  }
});

it('a phone’s picture is a strip or high enough for its controls, nothing between', () => {
  const lengths = Array.from({ length: 90 }, (_, i) => stageLength('phone', 743, (i + 1) / 100));
  expect(lengths.filter((length) => length > STRIP && length < 180)).toEqual([]);
  expect(lengths[0]).toBe(STRIP);
  expect(lengths.at(-1)).toBe(743 - 150 - DIVIDER.phone);
});

it('low phones begin with a strip, high ones with a picture', () => {
  expect(stageLength('phone', 539, defaultShare('phone', 539))).toBe(STRIP);
  expect(stageLength('phone', 743, defaultShare('phone', 743))).toBeGreaterThan(250);
});

it('a large screen gives the picture more than half', () => {
  expect(stageLength('wide', 752, defaultShare('wide', 752))).toBe(338);
  expect(stageLength('wide', 1032, defaultShare('wide', 1032))).toBe(557);
});

it('before anything is laid out, it is what it is at least', () => {
  expect(stageLength('phone', 0, defaultShare('phone', 0))).toBe(STRIP);
  expect(stageLength('wide', 1, Infinity)).toBe(180);
});

describe('what was dragged', () => {
  afterEach(() => localStorage.clear());

  it('is remembered', () => {
    rememberShares({ wide: 0.6, phone: 0.3 });
    expect(rememberedShares()).toEqual({ wide: 0.6, phone: 0.3 });
  });

  it.each(['', '{', '[]', '{"wide":"half"}', '{"wide":7}', 'null'])('%s is nothing', (kept) => {
    localStorage.setItem('hastig-picture-share', kept);
    expect(rememberedShares()).toEqual({});
  });
});
