import { fallTime, flight, GRAVITY, incline, plateCells, plateLayout, readPlate, ROLLING, scenes, sceneSound } from '.';

describe('the workshop’s physics', () => {
  it('falls by Galileo’s law and rolls by 5/7 of a slide (solid sphere, I = 2/5·m·r²; any mechanics handbook)', () => {
    const fall = flight({ x: 0, y: 1, vx: 0, vy: 0 });
    expect(fall(0.2).y).toBeCloseTo(1 - (9.81 * 0.04) / 2, 12);
    expect(fallTime(1, 0, 0)).toBeCloseTo(Math.sqrt(2 / GRAVITY), 12);
    const roll = incline({ x: 0, y: 0, vx: 0, vy: 0 }, Math.PI / 6);
    expect(Math.hypot(roll(1).vx, roll(1).vy)).toBeCloseTo(GRAVITY * ROLLING * 0.5, 12);
  });

  it.each(scenes.map((scene) => [scene.name, scene] as const))('%s moves without a jump', (_, scene) => {
    for (const marble of scene.marbles) {
      const seconds = scene.frames / scene.fps;
      let before = marble.at(0);
      for (let time = 0.001; time < seconds; time += 0.001) {
        const now = marble.at(time);
        const way = Math.hypot(now.x - before.x, now.y - before.y);
        expect(way).toBeLessThan(
          0.001 * (0.3 + 1.5 * Math.max(Math.hypot(now.vx, now.vy), Math.hypot(before.vx, before.vy))),
        );
        before = now;
      }
      for (const impact of marble.impacts) {
        expect(marble.at(impact.time - 1e-6).vy).toBeCloseTo(-impact.speed, 3);
        expect(marble.at(impact.time + 1e-6).vy).toBeGreaterThan(-1e-4);
      }
    }
  });

  it('is heard: nothing before the first marble moves, a knock at each bounce', () => {
    const scene = scenes.find(({ name }) => name === 'drop')!;
    const [left] = sceneSound(scene);
    const loudest = (from: number, to: number): number =>
      left.subarray(from * 48_000, to * 48_000).reduce((most, value) => Math.max(most, Math.abs(value)), 0);
    expect(loudest(0, 0.4)).toBe(0);
    const { time } = scene.marbles[0]!.impacts[0]!;
    expect(loudest(time, time + 0.01)).toBeGreaterThan(3 * loudest(time - 0.02, time - 0.001));
  });
});

describe('the plate', () => {
  const draw = (frame: number) => {
    const { x, y, cell } = plateLayout(1280, 720);
    const cells = plateCells(frame);
    return (px: number, py: number): number => {
      const index = Math.floor((px - x) / cell);
      return py >= y && py < y + cell && index >= 0 && index < cells.length ? (cells[index] ? 230 : 20) : 100;
    };
  };

  it('is read back for every number', () => {
    for (let frame = 0; frame < 2 ** 16; frame += 37) expect(readPlate(draw(frame), 1280, 720)).toBe(frame);
    expect(() => plateCells(2 ** 16)).toThrow(RangeError);
  });

  it('is not read where there is none, or where one cell is wrong', () => {
    expect(readPlate(() => 100, 1280, 720)).toBeUndefined();
    const { x, cell } = plateLayout(1280, 720);
    const luma = draw(77);
    expect(
      readPlate((px, py) => (Math.floor((px - x) / cell) === 9 ? 250 - luma(px, py) : luma(px, py)), 1280, 720),
    ).toBeUndefined();
  });
});
