import { contactCells } from './contact-cells';

describe('a contact sheet', () => {
  it('lays three rows over a long source, from its first frame on', () => {
    const { cells, step, height } = contactCells(390, 3000, 103, 58, 4);
    expect([cells.length, cells[0], step, height]).toEqual([9, { x: 0, y: 0, frame: 0 }, 3000 / 9, 182]);
    expect(cells[3]).toMatchObject({ x: 0, y: 62, frame: 1000 });
  });

  it('has no more pictures than frames', () => {
    expect(contactCells(1200, 5, 100, 58, 4).cells.map(({ frame }) => frame)).toEqual([0, 1, 2, 3, 4]);
  });

  it('finds the frame at a place, and the place of a frame', () => {
    const sheet = contactCells(390, 3000, 103, 58, 4);
    for (const frame of [0, 17, 999, 1000, 1650, 2999]) {
      const { x, y } = sheet.placeOf(frame);
      expect(Math.abs(sheet.frameAt(x + 0.01, y + 10) - frame)).toBeLessThanOrEqual(1);
    }
    expect(sheet.frameAt(-50, -50)).toBe(0);
    expect(sheet.frameAt(5000, 5000)).toBe(2999);
  });
});
