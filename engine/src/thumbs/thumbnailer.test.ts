import { standIn } from './thumbnailer';

describe('the frame that stands in for a small picture', () => {
  const group = { start: 100, end: 350 };

  it('is the start of a group where that is near enough', () => {
    expect(standIn({ frame: 108, tolerance: 10 }, group, 1000)).toBe(100);
    expect(standIn({ frame: 345, tolerance: 10 }, group, 1000)).toBe(350);
  });

  it('is the frame itself where no group starts near, and never one that does not exist', () => {
    expect(standIn({ frame: 200, tolerance: 10 }, group, 1000)).toBe(200);
    expect(standIn({ frame: 345, tolerance: 10 }, group, 350)).toBe(345);
    expect(standIn({ frame: 100, tolerance: 0 }, group, 350)).toBe(100);
  });
});
